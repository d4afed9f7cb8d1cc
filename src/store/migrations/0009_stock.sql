CREATE TABLE `stock_moves` (
	`seq` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`id` text NOT NULL,
	`item` text NOT NULL,
	`what` text NOT NULL,
	`unit` text NOT NULL,
	`kind` text NOT NULL,
	`count` real NOT NULL,
	`job` text,
	`at` text NOT NULL,
	`by` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `stock_move_by_id` ON `stock_moves` (`id`);--> statement-breakpoint
CREATE INDEX `stock_moves_by_item` ON `stock_moves` (`item`);