CREATE TABLE `case_links` (
	`case_id` integer NOT NULL,
	`part` text NOT NULL,
	`link` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	PRIMARY KEY(`case_id`, `part`),
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `case_links_by_link` ON `case_links` (`link`);--> statement-breakpoint
CREATE TABLE `fetches` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`link` text NOT NULL,
	`keep` text NOT NULL,
	`title` text NOT NULL,
	`path` text NOT NULL,
	`total` integer NOT NULL,
	`sha256` text,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `finds` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`look_id` integer NOT NULL,
	`item` text NOT NULL,
	`name` text NOT NULL,
	`extension` text NOT NULL,
	`place` text NOT NULL,
	`type` text NOT NULL,
	`bytes` integer NOT NULL,
	`made` text,
	`day` text,
	`gone_at` text,
	`presence` text NOT NULL,
	`whole` text NOT NULL,
	`wanted` text,
	`is_marked` integer DEFAULT false NOT NULL,
	`body` text NOT NULL,
	FOREIGN KEY (`look_id`) REFERENCES `looks`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `finds_by_look` ON `finds` (`look_id`,`made`);--> statement-breakpoint
CREATE INDEX `finds_marked` ON `finds` (`look_id`,`is_marked`);--> statement-breakpoint
CREATE INDEX `finds_by_day` ON `finds` (`look_id`,`day`);--> statement-breakpoint
CREATE TABLE `looks` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`run_id` text,
	`link` text NOT NULL,
	`keep` text NOT NULL,
	`title` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `looks_by_case` ON `looks` (`case_id`);--> statement-breakpoint
CREATE TABLE `safety_copies` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`link` text NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`mark` text NOT NULL,
	`path` text NOT NULL,
	`items` integer NOT NULL,
	`bytes` integer NOT NULL,
	`sha256` text NOT NULL,
	`verified_at` text,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `shelf_items` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`run_id` text,
	`link` text NOT NULL,
	`item` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`path` text NOT NULL,
	`bytes` integer NOT NULL,
	`sha256` text,
	`wanted` text,
	`whole` text NOT NULL,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	`at` text,
	`body` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `shelf_by_case` ON `shelf_items` (`case_id`,`state`);--> statement-breakpoint
CREATE INDEX `shelf_by_item` ON `shelf_items` (`case_id`,`link`,`item`);--> statement-breakpoint
CREATE TABLE `shelf_jobs` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`case_id` integer NOT NULL,
	`link` text NOT NULL,
	`state` text NOT NULL,
	`says` text DEFAULT '' NOT NULL,
	`by` text NOT NULL,
	`begun` text NOT NULL,
	`ended` text,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `stand_ins` (
	`id` text PRIMARY KEY NOT NULL,
	`place` integer NOT NULL,
	`version` integer NOT NULL,
	`body` text NOT NULL
);
