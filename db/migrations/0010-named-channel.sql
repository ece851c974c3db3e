-- A channel with the description its device holds, or the one that is about to be written to it; null while
-- there is none: then it is named by zone and quantity (channelName in server/station/channelName.ts).
create view named_channel as
  select c.station_id, c.id, c.key, c.number, c.zone_name, c.quantity, s.code as station_code, s.site_id,
         (select r.settings->>'description' from setting_revision r
           where r.station_id = c.station_id and r.channel_id = c.id
             and (r.written_at is not null or r.discarded_at is null)
           order by r.written_at is null, r.revision desc limit 1) as description
    from channel c join station s on s.id = c.station_id;
grant select on named_channel to outer_cairn_app;

-- Settings as they were written last, channel by channel.
create view written_setting as
  select r.* from setting_revision r
   where r.written_at is not null
     and not exists (select 1 from setting_revision n where n.station_id = r.station_id and n.channel_id = r.channel_id
                      and n.written_at is not null and n.revision > r.revision);
grant select on written_setting to outer_cairn_app;
