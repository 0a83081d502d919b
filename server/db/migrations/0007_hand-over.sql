CREATE TABLE `attachments` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`kind` text NOT NULL,
	`part` text NOT NULL,
	`name` text NOT NULL,
	`mime` text NOT NULL,
	`bytes` integer NOT NULL,
	`sha256` text NOT NULL,
	`file` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `attachments_by_case` ON `attachments` (`case_id`);--> statement-breakpoint
CREATE TABLE `batches` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`run_id` text,
	`title` text NOT NULL,
	`path` text NOT NULL,
	`kind` text NOT NULL,
	`folder` text,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `batches_by_case` ON `batches` (`case_id`);--> statement-breakpoint
CREATE TABLE `handouts` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`path` text NOT NULL,
	`layout` text NOT NULL,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	`done` integer DEFAULT 0 NOT NULL,
	`total` integer NOT NULL,
	`by` text NOT NULL,
	`begun` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `handouts_by_case` ON `handouts` (`case_id`);--> statement-breakpoint
CREATE TABLE `papers` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`kind` text NOT NULL,
	`number` text NOT NULL,
	`body` text NOT NULL,
	`head` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `papers_number_unique` ON `papers` (`number`);--> statement-breakpoint
CREATE INDEX `papers_by_case` ON `papers` (`case_id`,`kind`);--> statement-breakpoint
ALTER TABLE `cases` ADD `is_stopped` integer DEFAULT false NOT NULL;