ALTER TABLE `history` RENAME TO `history_before`;--> statement-breakpoint
DROP INDEX `history_by_case`;--> statement-breakpoint
CREATE TABLE `case_keys` (
	`case_id` integer PRIMARY KEY NOT NULL,
	`sealed` blob NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`version` integer NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`kind` text NOT NULL,
	`is_earlier` integer DEFAULT false NOT NULL,
	`content` text NOT NULL,
	`sealed` blob NOT NULL,
	`digest` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `history_of_case` ON `history` (`case_id`,`version`);--> statement-breakpoint
CREATE TRIGGER `history_is_not_changed` BEFORE UPDATE ON `history`
BEGIN
	SELECT RAISE(ABORT, 'The history is only ever added to.');
END;--> statement-breakpoint
CREATE TRIGGER `history_is_not_removed` BEFORE DELETE ON `history`
BEGIN
	SELECT RAISE(ABORT, 'The history is only ever added to.');
END;
