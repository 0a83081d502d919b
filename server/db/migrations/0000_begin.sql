CREATE TABLE `cases` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`code` text NOT NULL,
	`version` integer NOT NULL,
	`body` text NOT NULL,
	`state` text NOT NULL,
	`client_id` text,
	`client_name` text DEFAULT '' NOT NULL,
	`phone_digits` text DEFAULT '' NOT NULL,
	`updated_at` text NOT NULL,
	FOREIGN KEY (`client_id`) REFERENCES `clients`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `cases_code_unique` ON `cases` (`code`);--> statement-breakpoint
CREATE INDEX `cases_by_state` ON `cases` (`state`);--> statement-breakpoint
CREATE INDEX `cases_by_client` ON `cases` (`client_id`);--> statement-breakpoint
CREATE TABLE `clients` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`phone` text,
	`phone_digits` text DEFAULT '' NOT NULL,
	`mail` text,
	`updated_at` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `clients_by_digits` ON `clients` (`phone_digits`);--> statement-breakpoint
CREATE INDEX `clients_by_name` ON `clients` (`name`);--> statement-breakpoint
CREATE TABLE `history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`version` integer NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`kind` text NOT NULL,
	`fact` text NOT NULL,
	`was` text NOT NULL,
	`is` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `history_by_case` ON `history` (`case_id`,`version`);--> statement-breakpoint
CREATE TABLE `people` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`sign_in` text NOT NULL,
	`name` text NOT NULL,
	`role` text NOT NULL,
	`password_hash` text NOT NULL,
	`created_at` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `people_sign_in_unique` ON `people` (`sign_in`);--> statement-breakpoint
CREATE TABLE `settings` (
	`key` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
