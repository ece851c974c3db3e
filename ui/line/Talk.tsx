'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeBusId, ReadBus, WriteBus } from '@/contract/busRequests';
import type { BusAnswerView, BusWriteView, ConsoleView } from '@/contract/busViews';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { AnswerBox } from './AnswerBox';
import { Field } from './Field';
import { Frames } from './Frames';

const row = { display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 } as const;

export function Answer({ answer }: { answer: BusAnswerView & { state?: BusWriteView['state'] } }) {
  const good = answer.state ? answer.state === 'done' : answer.registers.length > 0;
  const shown = !answer.state && answer.registers.length > 0 ? `: ${answer.registers.join(', ')}` : '';
  return (
    <AnswerBox good={good} state={answer.state} says={answer.says + shown}>
      <Frames frames={answer.frames} />
    </AnswerBox>
  );
}

/** Reads registers of whoever has an ID. */
export function ReadRegisters({ base }: { base: string }) {
  const [unit, setUnit] = useState<number | null>(1);
  const [fn, setFn] = useState<3 | 4>(3);
  const [address, setAddress] = useState<number | null>(0);
  const [count, setCount] = useState<number | null>(1);
  const ask = useMutation({
    mutationFn: () =>
      send<BusAnswerView>('POST', `${base}/read`, {
        actionId: newId(),
        unit: unit!,
        fn,
        address: address!,
        count: count!,
      } satisfies ReadBus),
  });
  return (
    <Box component="section" aria-label="Read">
      <Typography variant="h3">Read</Typography>
      <Box sx={row}>
        <Field label="ID" value={unit} low={1} high={247} onChange={setUnit} />
        <TextField
          select
          label="Registers"
          value={fn}
          sx={{ width: 112 }}
          onChange={(e) => setFn(Number(e.target.value) === 4 ? 4 : 3)}
        >
          <MenuItem value={3}>holding</MenuItem>
          <MenuItem value={4}>input</MenuItem>
        </TextField>
        <Field label="From" value={address} low={0} high={65_535} onChange={setAddress} />
        <Field label="How many" value={count} low={1} high={125} onChange={setCount} />
        <Button
          variant="contained"
          sx={gloved}
          disabled={ask.isPending || [unit, address, count].includes(null)}
          onClick={() => ask.mutate()}
        >
          {ask.isPending ? 'Asking …' : 'Ask'}
        </Button>
      </Box>
      <ProblemNote error={ask.error} />
      {ask.data && <Answer answer={ask.data} />}
    </Box>
  );
}

/** Writes one register and reads it back. */
export function WriteRegister({ base, onChanged }: { base: string; onChanged: () => Promise<void> }) {
  const [unit, setUnit] = useState<number | null>(1);
  const [address, setAddress] = useState<number | null>(0);
  const [value, setValue] = useState<number | null>(0);
  const write = useMutation({
    mutationFn: () =>
      send<BusWriteView>('POST', `${base}/write`, {
        actionId: newId(),
        unit: unit!,
        address: address!,
        values: [value!],
      } satisfies WriteBus),
    onSuccess: onChanged,
  });
  return (
    <Box component="section" aria-label="Write">
      <Typography variant="h3">Write</Typography>
      <Box sx={row}>
        <Field label="ID" value={unit} low={1} high={247} onChange={setUnit} />
        <Field label="Register" value={address} low={0} high={65_535} onChange={setAddress} />
        <Field label="Value" value={value} low={0} high={65_535} onChange={setValue} />
        <Button
          sx={gloved}
          variant="outlined"
          disabled={write.isPending || [unit, address, value].includes(null)}
          onClick={() => write.mutate()}
        >
          {write.isPending ? 'Writing …' : 'Write and read back'}
        </Button>
      </Box>
      <ProblemNote error={write.error} />
      {write.data && <Answer answer={write.data} />}
    </Box>
  );
}

type Line = ConsoleView['lines'][number];

/** Gives a device another ID; what its model says of the registers is filled in. */
export function ChangeId({
  base,
  line,
  onChanged,
}: {
  base: string;
  line: Line;
  onChanged: () => Promise<void>;
}) {
  const known = line.devices[0];
  const taken = new Set(line.devices.map((d) => d.busId));
  const free = Array.from({ length: 247 }, (_, i) => i + 1).find((id) => !taken.has(id)) ?? 247;
  const [from, setFrom] = useState<number | null>(known?.busId ?? 1);
  const [to, setTo] = useState<number | null>(free);
  const device = line.devices.find((d) => d.busId === from);
  const [register, setRegister] = useState<number | null>(known?.management?.idRegister ?? null);
  const storeRegister = device?.management?.storeRegister ?? null;
  const change = useMutation({
    mutationFn: () =>
      send<BusWriteView>('POST', `${base}/change-id`, {
        actionId: newId(),
        from: from!,
        to: to!,
        register: register!,
        storeRegister,
      } satisfies ChangeBusId),
    onSuccess: onChanged,
  });
  const choose = (id: number | null) => {
    setFrom(id);
    const its = line.devices.find((d) => d.busId === id)?.management;
    if (its) setRegister(its.idRegister);
  };
  return (
    <Box component="section" aria-label="Change an ID">
      <Typography variant="h3">Change an ID</Typography>
      <Typography variant="body2" color="text.secondary">
        {device
          ? `${device.serial}: ID set by ${device.idSetBy}${storeRegister === null ? '' : `; kept by register ${storeRegister}`}`
          : 'Nothing on file has this ID: its data sheet names the register.'}
      </Typography>
      <Box sx={row}>
        <Field label="ID now" value={from} low={1} high={247} onChange={choose} />
        <Field label="New ID" value={to} low={1} high={247} onChange={setTo} />
        <Box sx={{ width: 170 }}>
          <NumberField
            key={device?.serial}
            label="Register of its ID"
            value={register}
            low={0}
            high={65_535}
            onChange={setRegister}
          />
        </Box>
        <Button
          sx={gloved}
          variant="outlined"
          disabled={change.isPending || [from, to, register].includes(null)}
          onClick={() => change.mutate()}
        >
          {change.isPending ? 'Writing …' : 'Change it'}
        </Button>
      </Box>
      <ProblemNote error={change.error} />
      {change.data && <Answer answer={change.data} />}
    </Box>
  );
}
