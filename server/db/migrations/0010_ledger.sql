CREATE TABLE `case_lines` (
	`case_id` integer PRIMARY KEY NOT NULL,
	`logged` integer,
	`state` text NOT NULL,
	`done` integer,
	`body` text NOT NULL,
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `case_lines_by_time` ON `case_lines` (`logged`);--> statement-breakpoint
CREATE INDEX `case_lines_by_state` ON `case_lines` (`state`);--> statement-breakpoint
CREATE TABLE `ended_runs` (
	`case_id` integer NOT NULL,
	`run` text NOT NULL,
	`ended` integer NOT NULL,
	`outcome` text,
	`kind` text NOT NULL,
	`platform` text NOT NULL,
	`device` text NOT NULL,
	`type` text NOT NULL,
	`loss` text NOT NULL,
	`by` text NOT NULL,
	`cause` text,
	`chance` real,
	`place` integer,
	`is_first` integer NOT NULL,
	`back` integer NOT NULL,
	`whole` integer NOT NULL,
	`unverified` integer NOT NULL,
	`hands_on` real NOT NULL,
	`waiting` real NOT NULL,
	`spent` real NOT NULL,
	`charged` real NOT NULL,
	`left_out` text,
	`is_training` integer NOT NULL,
	PRIMARY KEY(`case_id`, `run`),
	FOREIGN KEY (`case_id`) REFERENCES `cases`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `ended_runs_by_time` ON `ended_runs` (`ended`);--> statement-breakpoint
CREATE INDEX `ended_runs_by_kind` ON `ended_runs` (`kind`,`ended`);--> statement-breakpoint
CREATE TABLE `playbook_versions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`reason` text NOT NULL,
	`body` blob NOT NULL
);
--> statement-breakpoint
DROP TABLE `outcomes`;