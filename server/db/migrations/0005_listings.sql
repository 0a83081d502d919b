ALTER TABLE `looks` RENAME TO `listings`;--> statement-breakpoint
ALTER TABLE `finds` RENAME COLUMN `look_id` TO `listing_id`;--> statement-breakpoint
ALTER TABLE `finds` RENAME COLUMN `is_marked` TO `is_selected`;--> statement-breakpoint
ALTER TABLE `finds` RENAME COLUMN `lies` TO `start_byte`;--> statement-breakpoint
ALTER TABLE `passes` RENAME COLUMN `look_id` TO `listing_id`;--> statement-breakpoint
ALTER TABLE `passes` RENAME COLUMN `falls` TO `crashes`;--> statement-breakpoint
DROP INDEX `looks_by_case`;--> statement-breakpoint
CREATE INDEX `listings_by_case` ON `listings` (`case_id`);--> statement-breakpoint
DROP INDEX `finds_by_look`;--> statement-breakpoint
CREATE INDEX `finds_by_listing` ON `finds` (`listing_id`,"made" desc);--> statement-breakpoint
DROP INDEX `finds_marked`;--> statement-breakpoint
CREATE INDEX `finds_selected` ON `finds` (`listing_id`,`is_selected`);--> statement-breakpoint
DROP INDEX `finds_of_look`;--> statement-breakpoint
CREATE INDEX `finds_of_listing` ON `finds` (`listing_id`);--> statement-breakpoint
DROP INDEX `passes_by_look`;--> statement-breakpoint
CREATE INDEX `passes_by_listing` ON `passes` (`listing_id`);
