CREATE TABLE `find_bodies` (
	`find_id` integer PRIMARY KEY NOT NULL,
	`body` text NOT NULL,
	FOREIGN KEY (`find_id`) REFERENCES `finds`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `pass_notes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`pass_id` integer NOT NULL,
	`body` text NOT NULL,
	FOREIGN KEY (`pass_id`) REFERENCES `passes`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `pass_notes_by_pass` ON `pass_notes` (`pass_id`);--> statement-breakpoint
CREATE TABLE `passes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`look_id` integer NOT NULL,
	`link` text NOT NULL,
	`is_own` integer NOT NULL,
	`options` text NOT NULL,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	`progress` text,
	`claim` text,
	`falls` integer DEFAULT 0 NOT NULL,
	`stamp` text NOT NULL,
	`bytes` integer NOT NULL,
	`sha256` text,
	`by` text NOT NULL,
	`queued` text NOT NULL,
	`begun` text,
	`ended` text,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`look_id`) REFERENCES `looks`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `passes_by_case` ON `passes` (`case_id`);--> statement-breakpoint
CREATE INDEX `passes_by_state` ON `passes` (`state`);--> statement-breakpoint
CREATE INDEX `passes_by_look` ON `passes` (`look_id`);--> statement-breakpoint
DROP INDEX `finds_by_look`;--> statement-breakpoint
DROP INDEX `finds_by_day`;--> statement-breakpoint
ALTER TABLE `finds` ADD `lies` integer;--> statement-breakpoint
CREATE INDEX `finds_by_item` ON `finds` (`item`);--> statement-breakpoint
CREATE INDEX `finds_of_look` ON `finds` (`look_id`);--> statement-breakpoint
CREATE INDEX `finds_by_look` ON `finds` (`look_id`,"made" desc);--> statement-breakpoint
CREATE INDEX `finds_by_day` ON `finds` (`look_id`,`day`,"made" desc);--> statement-breakpoint
INSERT INTO `find_bodies` (`find_id`, `body`) SELECT `id`, `body` FROM `finds`;--> statement-breakpoint
ALTER TABLE `finds` DROP COLUMN `body`;