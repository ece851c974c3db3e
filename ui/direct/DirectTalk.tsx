'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { KeepDirect } from '@/contract/directRequests';
import { faultAdvice } from '@/core/bus/faultAdvice';
import { characterTime, serialText, type SerialSettings } from '@/core/bus/serial';
import type { HalfDuplexLine } from '@/line/halfDuplexLine';
import { exchangeOn, usualLine, type Exchange } from '@/line/modbusExchange';
import { scanOn, type ScanHit } from '@/line/scanIds';
import { AnswerBox } from '../line/AnswerBox';
import { Field } from '../line/Field';
import { Frames } from '../line/Frames';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

interface Talk {
  readonly stationId: string;
  readonly line: HalfDuplexLine;
  readonly serial: SerialSettings;
}

interface Said {
  readonly good: boolean;
  readonly says: string;
  readonly frames: Exchange['frames'];
  /** Why it is not in the field book; left out where it is. */
  readonly notKept?: string;
}

/** Reads, writes and scans on an open adapter; each is kept in the field book. */
export function DirectTalk(props: Talk) {
  const [unit, setUnit] = useState<number | null>(1);
  const [fn, setFn] = useState<3 | 4>(4);
  const [address, setAddress] = useState<number | null>(0);
  const [value, setValue] = useState<number | null>(1);
  const { line } = props;
  const keep = useKeep(props);
  const read = useMutation({
    mutationFn: async (): Promise<Said> => {
      const done = await exchangeOn(line, unit!, { fn, address: address!, count: value! }, usualLine);
      return keep('read', {
        ...said(done),
        says: `ID ${unit}, ${value} ${fn === 3 ? 'holding' : 'input'} registers from ${address}: ${said(done).says}`,
      });
    },
  });
  const write = useMutation({
    mutationFn: async (): Promise<Said> => {
      const order = { fn: 6, address: address!, value: value! } as const;
      const done = await exchangeOn(line, unit!, order, usualLine);
      const back = done.ok
        ? await exchangeOn(line, unit!, { fn: 3, address: address!, count: 1 }, usualLine)
        : done;
      const equal = back.ok && back.registers[0] === value;
      const frames = back === done ? done.frames : [...done.frames, ...back.frames];
      return keep('write', {
        good: equal,
        frames,
        says: `ID ${unit}, register ${address} to ${value}: ${
          equal
            ? 'read back equal'
            : back.ok
              ? `reads back ${back.registers[0]}, so it is not called written`
              : done.ok
                ? `sent, and not read back: ${said(back).says}`
                : said(done).says
        }`,
      });
    },
  });
  const busy = read.isPending || write.isPending;
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box component="section" aria-label="Ask or write">
        <Typography variant="h3">Ask or write</Typography>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 }}>
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
          <Field
            label="How many, or value"
            width={150}
            value={value}
            low={0}
            high={65_535}
            onChange={setValue}
          />
          <Button
            variant="contained"
            sx={gloved}
            disabled={busy || [unit, address].includes(null) || !(value! >= 1 && value! <= 125)}
            onClick={() => read.mutate()}
          >
            {read.isPending ? 'Asking …' : 'Ask'}
          </Button>
          <Button
            variant="outlined"
            sx={gloved}
            disabled={busy || fn !== 3 || [unit, address, value].includes(null)}
            onClick={() => write.mutate()}
          >
            {write.isPending ? 'Writing …' : 'Write and read back'}
          </Button>
        </Box>
        <ProblemNote error={read.error ?? write.error} />
        {read.data && <SaidBox said={read.data} />}
        {write.data && <SaidBox said={write.data} />}
      </Box>
      <DirectScan {...props} disabled={busy} />
    </Box>
  );
}

function DirectScan({ disabled, ...props }: Talk & { disabled: boolean }) {
  const [from, setFrom] = useState<number | null>(1);
  const [to, setTo] = useState<number | null>(32);
  const [hits, setHits] = useState<readonly ScanHit[]>([]);
  const [asking, setAsking] = useState<number | null>(null);
  const stop = useRef(false);
  const keep = useKeep(props);
  const scan = useMutation({
    mutationFn: async (): Promise<Said> => {
      stop.current = false;
      const found: ScanHit[] = [];
      setHits([]);
      let last = from! - 1;
      const ids = Array.from({ length: to! - from! + 1 }, (_, i) => from! + i);
      try {
        await scanOn(
          props.line,
          ids,
          {
            character: characterTime(props.serial) * 1000,
            timeOut: 100,
            beforeEach: (id) => {
              if (stop.current) return Promise.reject(new Stopped());
              last = id;
              setAsking(id);
              return Promise.resolve();
            },
          },
          (hit) => {
            found.push(hit);
            setHits([...found]);
          },
        );
      } catch (error) {
        if (!(error instanceof Stopped)) throw error;
      } finally {
        setAsking(null);
      }
      return keep('scan', {
        good: found.length > 0,
        frames: [],
        says: `IDs ${from} to ${last}${last < to! ? ` of ${to} (stopped)` : ''}: ${found.map(hitText).join(', ') || 'nobody'}`,
      });
    },
  });
  return (
    <Box component="section" aria-label="Scan">
      <Typography variant="h3">Scan</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 }}>
        <Field label="From ID" value={from} low={1} high={247} onChange={setFrom} />
        <Field label="To ID" value={to} low={1} high={247} onChange={setTo} />
        <Button
          variant="outlined"
          sx={gloved}
          disabled={disabled || scan.isPending || from === null || to === null || from > to}
          onClick={() => scan.mutate()}
        >
          {asking === null ? 'Scan' : `Asking ${asking} …`}
        </Button>
        {scan.isPending && (
          <Button sx={gloved} onClick={() => (stop.current = true)}>
            Stop
          </Button>
        )}
      </Box>
      <Typography role="status">{hits.map(hitText).join(', ')}</Typography>
      <ProblemNote error={scan.error} />
      {scan.data && <SaidBox said={scan.data} />}
    </Box>
  );
}

function SaidBox({ said: { good, says, frames, notKept } }: { said: Said }) {
  return (
    <AnswerBox good={good} says={says}>
      {frames.length > 0 && <Frames frames={frames} />}
      {notKept && (
        <Typography role="alert">
          Not in the field book: {notKept} Write it down, or note it later.
        </Typography>
      )}
    </AnswerBox>
  );
}

class Stopped extends Error {}

const hitText = (h: ScanHit) =>
  `ID ${h.id} ${h.heard === 'answer' ? 'answers' : 'makes noise'}${h.late ? ' late' : ''}`;

function said(done: Exchange): Said {
  if (done.ok) return { good: true, says: done.registers.join(', ') || 'done', frames: done.frames };
  return { good: false, says: `${faultAdvice(done.fault).title}: ${done.detail}`, frames: done.frames };
}

/** Keeps what was said as a line of the field book, then gives it to be shown. */
function useKeep({ stationId, serial }: Pick<Talk, 'stationId' | 'serial'>) {
  return async (kind: KeepDirect['kind'], what: Said): Promise<Said> => {
    // What was done on the line is done, whether the server can be reached or not.
    try {
      await send('POST', `/api/v1/stations/${stationId}/direct`, {
        lineId: newId(),
        occurredAt: nowText(),
        kind,
        says: `${serialText(serial)}; ${what.says}`,
        frames: what.frames.map((f) => ({ ...f, hex: f.hex.slice(0, 2000) })),
      } satisfies KeepDirect);
      return what;
    } catch (error) {
      return { ...what, notKept: (error as Error).message };
    }
  };
}
