-- What two people may do at one moment and only one should: said by the database as well as by the acts'
-- own lock, for whoever writes without it.

-- A clock is set by one at a time, as a channel is written by one.
create unique index device_action_one_clock on device_action (station_id)
  where settled_at is null and kind = 'set-clock';
-- An open off-line window begins once.
create unique index layer_one_open_off_line on layer (station_id, channel_id, from_at)
  where kind = 'off-line' and until_at is null;
