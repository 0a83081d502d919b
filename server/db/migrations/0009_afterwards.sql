CREATE TABLE `feeds` (
	`person_id` integer PRIMARY KEY NOT NULL,
	`digest` text NOT NULL,
	`at` text NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `feeds_digest_unique` ON `feeds` (`digest`);--> statement-breakpoint
CREATE TABLE `secrets` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`part` text NOT NULL,
	`kind` text NOT NULL,
	`sealed` blob NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `secrets_by_part` ON `secrets` (`case_id`,`part`,`kind`);--> statement-breakpoint
CREATE TABLE `wipes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`part` text NOT NULL,
	`at` text NOT NULL,
	`by` text,
	`body` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `wipes_by_case` ON `wipes` (`case_id`);--> statement-breakpoint
DROP INDEX `cases_by_state`;--> statement-breakpoint
ALTER TABLE `cases` ADD `identity` text;--> statement-breakpoint
ALTER TABLE `cases` ADD `ended_at` integer;--> statement-breakpoint
ALTER TABLE `cases` ADD `is_data_wiped` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX `cases_identity_unique` ON `cases` (`identity`);--> statement-breakpoint
CREATE INDEX `cases_by_end` ON `cases` (`ended_at`);--> statement-breakpoint
CREATE INDEX `cases_by_state` ON `cases` (`state`,`is_stopped`,`version`);--> statement-breakpoint
DROP INDEX `plans_by_waits`;--> statement-breakpoint
CREATE INDEX `plans_by_waits` ON `plans` ("waits" desc,`closes`,"case_id" desc);