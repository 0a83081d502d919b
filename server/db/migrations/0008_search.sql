CREATE VIRTUAL TABLE `search_cases` USING fts5(`client`, `parts`, `code`, `thing`, `note`, detail=column, prefix='2 3 4', tokenize="unicode61 remove_diacritics 2");--> statement-breakpoint
CREATE VIRTUAL TABLE `search_history` USING fts5(`says`, detail=column, prefix='2 3 4', tokenize="unicode61 remove_diacritics 2");--> statement-breakpoint
CREATE VIRTUAL TABLE `search_files` USING fts5(`name`, `path`, content='shelf_items', content_rowid='id', detail=column, prefix='2 3 4', tokenize="unicode61 remove_diacritics 2");--> statement-breakpoint
INSERT INTO `search_cases`(`search_cases`, `rank`) VALUES ('secure-delete', 1);--> statement-breakpoint
INSERT INTO `search_history`(`search_history`, `rank`) VALUES ('secure-delete', 1);--> statement-breakpoint
INSERT INTO `search_files`(`search_files`, `rank`) VALUES ('secure-delete', 1);--> statement-breakpoint
INSERT INTO `search_files`(`search_files`) VALUES ('rebuild');--> statement-breakpoint
CREATE TRIGGER `search_files_added` AFTER INSERT ON `shelf_items`
BEGIN
	INSERT INTO `search_files`(`rowid`, `name`, `path`) VALUES (new.`id`, new.`name`, new.`path`);
END;--> statement-breakpoint
CREATE TRIGGER `search_files_removed` AFTER DELETE ON `shelf_items`
BEGIN
	INSERT INTO `search_files`(`search_files`, `rowid`, `name`, `path`) VALUES ('delete', old.`id`, old.`name`, old.`path`);
END;--> statement-breakpoint
CREATE TRIGGER `search_files_changed` AFTER UPDATE OF `name`, `path` ON `shelf_items`
BEGIN
	INSERT INTO `search_files`(`search_files`, `rowid`, `name`, `path`) VALUES ('delete', old.`id`, old.`name`, old.`path`);
	INSERT INTO `search_files`(`rowid`, `name`, `path`) VALUES (new.`id`, new.`name`, new.`path`);
END;
