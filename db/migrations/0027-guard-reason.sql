-- Why more than the guard was adjusted at once: goods at start-up, or another product.
alter table adjustment add column guard_reason text check (length(guard_reason) between 3 and 500);
