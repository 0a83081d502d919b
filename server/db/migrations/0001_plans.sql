CREATE TABLE `outcomes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`run_id` text NOT NULL,
	`at` text NOT NULL,
	`body` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `plans` (
	`case_id` integer PRIMARY KEY NOT NULL,
	`case_version` integer NOT NULL,
	`revision` integer NOT NULL,
	`made_at` text NOT NULL,
	`until` text NOT NULL,
	`depth` text NOT NULL,
	`waits` real NOT NULL,
	`closes` integer NOT NULL,
	`body` text NOT NULL,
	`summary` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `plans_by_waits` ON `plans` (`waits`);--> statement-breakpoint
CREATE INDEX `plans_by_closes` ON `plans` (`closes`);--> statement-breakpoint
CREATE INDEX `plans_by_until` ON `plans` (`until`);