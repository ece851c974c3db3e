'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { SetUpView } from '@/contract/planViews';
import type { StationDescription } from '@/contract/stationDescription';
import { Refusal, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { fieldGrid, gloved, openForm } from '../shared/theme';
import { GatewayModel, SerialSettingsField, usualLines } from './gatewayFields';

const grid = fieldGrid(200);
const zones = ['Etc/UTC', 'Etc/GMT-1', Intl.DateTimeFormat().resolvedOptions().timeZone];

/** A station in one go: its site, its logger by profile, the gateway of its serial line; or like another one. */
export function NewStationForm({
  view,
  like,
  onMade,
}: {
  view: SetUpView;
  like: string | null;
  onMade: () => void;
}) {
  const router = useRouter();
  const source = view.sites
    .flatMap((site) => site.stations.map((s) => ({ site, s })))
    .find((x) => x.s.id === like);
  const [siteName, setSiteName] = useState(source?.site.name ?? view.sites[0]?.name ?? '');
  const known = view.sites.find((s) => s.name === siteName.trim());
  const [zone, setZone] = useState(zones[0]!);
  const [note, setNote] = useState('');
  const [latitude, setLatitude] = useState('');
  const [longitude, setLongitude] = useState('');
  const [code, setCode] = useState('');
  const [name, setName] = useState(source ? `${source.s.name} 2` : '');
  const [caution, setCaution] = useState(source?.s.cautions[0] ?? '');
  const [profile, setProfile] = useState(
    source ? (source.s.logger?.profile ?? '') : (view.loggers[0]?.code ?? ''),
  );
  const [serial, setSerial] = useState('');
  const [address, setAddress] = useState('');
  const [offset, setOffset] = useState(String(source?.s.logger?.utcOffsetMinutes ?? 0));
  const model = view.loggers.find((l) => l.code === profile);
  const [supply, setSupply] = useState(String(source?.s.logger?.supplyVoltage ?? model?.preferred ?? 12));
  const [gateway, setGateway] = useState('');
  const [gatewayModel, setGatewayModel] = useState<string | null>(null);
  const [line, setLine] = useState(usualLines[0]!);
  const number = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));
  const make = useMutation({
    mutationFn: () => {
      const d: StationDescription = {
        site: known
          ? { name: known.name, zone: known.zone }
          : {
              name: siteName,
              zone,
              note,
              latitude: number(latitude),
              longitude: number(longitude),
            },
        code,
        name,
        cautions: caution.trim() ? [caution.trim()] : [],
        ...(model && {
          logger: {
            model: model.name,
            profile: model.code,
            serial,
            address,
            utcOffsetMinutes: Number(offset),
            supplyVoltage: Number(supply.replace(',', '.')),
          },
          ...(gateway.trim() &&
            model.lines[0] && {
              port: {
                name: model.lines[0],
                gatewayAddress: gateway.trim(),
                ...(gatewayModel && { gatewayProfile: gatewayModel }),
                serial: line,
              },
            }),
        }),
      };
      return send<{ stationId: string }>('POST', '/api/v1/stations', d);
    },
    onSuccess: ({ stationId }) => {
      onMade();
      router.push(model ? `/stations/${stationId}/connect/plan` : `/stations/${stationId}`);
    },
  });
  const wrong = make.error instanceof Refusal ? (make.error.problem.field ?? '') : '';
  const field = (label: string, value: string, set: (v: string) => void, path: string, help = ' ') => (
    <TextField
      label={label}
      value={value}
      onChange={(e) => set(e.target.value)}
      error={wrong === path}
      helperText={help}
    />
  );
  return (
    <Box
      component="form"
      noValidate
      aria-label="Add a station"
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        make.mutate();
      }}
    >
      <Typography variant="h2">{source ? `A station like ${source.s.code}` : 'A station'}</Typography>
      <Box sx={grid}>
        {field(
          'Site',
          siteName,
          setSiteName,
          'site.name',
          known
            ? 'it is there already'
            : `a new one; there are ${view.sites.map((s) => s.name).join(', ') || 'none yet'}`,
        )}
        {!known && (
          <>
            <TextField
              select
              label="Time zone of the site"
              value={zone}
              onChange={(e) => setZone(e.target.value)}
              error={wrong === 'site.zone'}
              helperText=" "
            >
              {[...new Set(zones)].map((z) => (
                <MenuItem key={z} value={z}>
                  {z}
                </MenuItem>
              ))}
            </TextField>
            {field('What it is', note, setNote, 'site.note', '“Blanket bog under restoration”')}
            {field('Latitude, °', latitude, setLatitude, 'site.latitude', 'north positive; may stay empty')}
            {field('Longitude, °', longitude, setLongitude, 'site.longitude', 'east positive')}
          </>
        )}
      </Box>
      <Box sx={grid}>
        {field('Code', code, (v) => setCode(v.toUpperCase()), 'code', 'capitals, digits, hyphens: MOSS-4')}
        {field('Name', name, setName, 'name')}
        {field('Caution', caution, setCaution, 'cautions', 'what can hurt somebody there; may stay empty')}
      </Box>
      <Box sx={grid}>
        <TextField
          select
          label="Logger"
          value={profile}
          onChange={(e) => {
            setProfile(e.target.value);
            setSupply(String(view.loggers.find((l) => l.code === e.target.value)?.preferred ?? 12));
          }}
          helperText="its ports and terminals come from its profile"
        >
          <MenuItem value="">none: files and typed readings only</MenuItem>
          {view.loggers.map((l) => (
            <MenuItem key={l.code} value={l.code}>
              {l.name}
            </MenuItem>
          ))}
        </TextField>
        {model && (
          <>
            {field('Serial number of the logger', serial, setSerial, 'logger.serial', 'on its label')}
            {field('Address of the logger', address, setAddress, 'logger.address', 'host:port')}
            {field(
              'Its clock, min from UTC',
              offset,
              setOffset,
              'logger.utcOffsetMinutes',
              'fixed, without summer time',
            )}
            {field('Supply, V', supply, setSupply, 'logger.supplyVoltage')}
            {model.lines[0] &&
              field(
                `Gateway of ${model.lines[0]}`,
                gateway,
                setGateway,
                'port.gatewayAddress',
                'host:port; may stay empty',
              )}
            {model.lines[0] && gateway.trim() && (
              <GatewayModel
                line={model.lines[0]}
                gateways={view.gateways.filter((g) => g.framing !== 'sdi-12')}
                value={gatewayModel}
                onChange={setGatewayModel}
              />
            )}
            {model.lines[0] && <SerialSettingsField line={model.lines[0]} value={line} onChange={setLine} />}
          </>
        )}
      </Box>
      <ProblemNote error={make.error} />
      <Box>
        <Button type="submit" variant="contained" sx={gloved} disabled={make.isPending}>
          {make.isPending ? 'Adding …' : 'Add it'}
        </Button>
      </Box>
    </Box>
  );
}
