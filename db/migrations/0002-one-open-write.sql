-- Two people may press "write" at the same moment. The first intent holds the channel until it is
-- settled; the second is refused before anything is sent, by the database and not by a look beforehand.
create unique index device_action_one_open_write on device_action (station_id, channel_id)
  where settled_at is null and kind <> 'talk';
