-- What carries a serial line to the network may be described, as everything else that is installed.
alter table port add column gateway_profile_code text;
alter table port add column gateway_profile_revision integer;
alter table port add foreign key (gateway_profile_code, gateway_profile_revision) references device_profile (code, revision);
alter table port add check ((gateway_profile_code is null) = (gateway_profile_revision is null));
alter table port add check (gateway_profile_code is null or gateway_address is not null);
-- Addresses change with the network, a gateway is exchanged, a supply is another; what a logger is stays.
grant update (address, supply_voltage) on logger to outer_cairn_app;
grant update (gateway_address, framing, baud, data_bits, parity, stop_bits, gateway_profile_code, gateway_profile_revision)
  on port to outer_cairn_app;
