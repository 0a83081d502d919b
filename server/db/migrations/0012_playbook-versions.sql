CREATE TABLE `playbook_versions` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` text NOT NULL,
	`by` text NOT NULL,
	`reason` text NOT NULL,
	`body` blob NOT NULL
);
