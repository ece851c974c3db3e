-- Writes made away from the desk: two clocks, and each act once.

-- When it was done by the person's own device, and what was taken off that to have the server's time, s.
-- occurred_at is the corrected instant.
alter table field_book_line add column device_at timestamptz;
alter table field_book_line add column device_ahead double precision;
alter table field_book_line add constraint field_book_line_device
  check ((device_at is null) = (device_ahead is null));

-- The key of the field write that left the line: what was done is found again though its answer was lost.
alter table field_book_line add column act_key uuid;
create index field_book_line_by_act on field_book_line (station_id, act_key) where act_key is not null;

-- A visit is found by when something was done, also long afterwards.
create index visit_by_person on visit (station_id, opened_by, opened_at);
-- What is heard of late may have been done before the visit's first line so far.
grant update (opened_at) on visit to outer_cairn_app;
