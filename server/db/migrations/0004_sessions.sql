CREATE TABLE `known_devices` (
	`digest` text NOT NULL,
	`person_id` integer NOT NULL,
	`used` integer NOT NULL,
	PRIMARY KEY(`digest`, `person_id`),
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `known_devices_by_person` ON `known_devices` (`person_id`,`used`);--> statement-breakpoint
CREATE TABLE `security_log` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` text NOT NULL,
	`event` text NOT NULL,
	`by` text,
	`about` text,
	`address` text,
	`count` integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE INDEX `security_log_by_time` ON `security_log` (`at`);--> statement-breakpoint
CREATE TABLE `sessions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`digest` text NOT NULL,
	`person_id` integer NOT NULL,
	`begun` integer NOT NULL,
	`used` integer NOT NULL,
	`address` text NOT NULL,
	`agent` text NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `sessions_digest_unique` ON `sessions` (`digest`);--> statement-breakpoint
CREATE INDEX `sessions_by_person` ON `sessions` (`person_id`);