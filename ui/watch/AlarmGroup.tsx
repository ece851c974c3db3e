'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import type { AcknowledgeAlarm, AlarmEventView, AlarmView, ShelveAlarms } from '@/contract/watch';
import { formatAge, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { Age } from '../shared/Age';
import { load, newId, send } from '../shared/api';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { ZoneMark } from './ZoneMark';
import type { ZoneShape } from './zone';

const shapeOf = (a: AlarmView): ZoneShape =>
  a.cause === 'silent'
    ? 'silent'
    : a.cause === 'twin'
      ? 'unlike'
      : a.cause === 'rate'
        ? 'moves'
        : a.returnedAt
          ? a.worst
          : a.level;

const endings = {
  back: 'back within',
  hours: 'its hours are over',
  gate: 'what it depends on ended',
  rule: 'its rule was changed',
} as const;

/** Alarms that one cause explains, as one matter: what rang, since when, who was told, what was done. */
export function AlarmGroup({
  alarms,
  isPointed,
  onChanged,
}: {
  alarms: readonly AlarmView[];
  isPointed: boolean;
  onChanged: () => Promise<void>;
}) {
  const first = alarms.find((a) => a.id === a.groupId) ?? alarms[0]!;
  const [isOpen, setOpen] = useState(isPointed);
  const [act, setAct] = useState<'acknowledge' | 'shelve' | null>(null);
  const mayNote = useMay('note');
  const mayMeasure = useMay('measure');
  const q = quantityOf(first.quantity);
  const done = async () => {
    setAct(null);
    await onChanged();
  };
  return (
    <Box
      component="li"
      sx={{ borderTop: 1, borderColor: 'divider', py: 1, bgcolor: isPointed ? 'ground.skyWash' : undefined }}
    >
      <Box
        sx={{ display: 'flex', gap: 1.25, alignItems: 'flex-start', flexWrap: { xs: 'wrap', sm: 'nowrap' } }}
      >
        <ZoneMark zone={{ shape: shapeOf(first), isQuiet: false }} size={26} />
        <Box sx={{ flex: '1 1 260px', minWidth: 0 }}>
          <Typography sx={{ fontWeight: 600 }}>
            <Link
              component={PageLink}
              href={`/stations/${first.stationId}/watch/${first.channelId}`}
              color="inherit"
            >
              {first.stationCode} {first.name}
            </Link>
            {alarms.length > 1 && ` and ${alarms.length - 1} more of this station`}
          </Typography>
          <Typography>{first.says}</Typography>
          <Typography variant="body2" color="text.secondary">
            {first.returnedAt === null ? (
              <>
                rings since <Age at={first.raisedAt} ago={false} />
              </>
            ) : (
              `rang ${timeText(first.raisedAt, first.zone)} for ${formatAge((Date.parse(first.returnedAt) - Date.parse(first.raisedAt)) / 1000)}, ${endings[first.ended!]}`
            )}
            {first.peak !== null &&
              first.cause === 'limits' &&
              first.peak !== first.value &&
              `; furthest ${formatValue(first.peak, q.decimals)} ${q.unit}`}
            {first.shelvedUntil && `; shelved until ${timeText(first.shelvedUntil, first.zone)}`}
          </Typography>
          {first.acknowledged && (
            <Typography variant="body2">
              Acknowledged by {first.acknowledged.by}: {first.acknowledged.reason}
            </Typography>
          )}
          <Told messages={first.messages} />
        </Box>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {mayNote && !first.acknowledged && (
            <Button
              variant="contained"
              sx={gloved}
              onClick={() => setAct(act === 'acknowledge' ? null : 'acknowledge')}
            >
              Acknowledge
            </Button>
          )}
          {mayMeasure && (
            <Shelving
              alarm={first}
              isOpen={act === 'shelve'}
              onOpen={() => setAct(act === 'shelve' ? null : 'shelve')}
              onDone={done}
            />
          )}
          <Button sx={gloved} aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
            {isOpen ? 'Less' : 'More'}
          </Button>
        </Box>
      </Box>
      {act === 'acknowledge' && <Acknowledge alarm={first} onDone={done} />}
      {act === 'shelve' && <Shelve alarm={first} onDone={done} />}
      {isOpen && alarms.map((a) => <Events key={a.id} alarm={a} isOne={alarms.length === 1} />)}
    </Box>
  );
}

function Told({ messages }: { messages: AlarmView['messages'] }) {
  if (messages.length === 0) return null;
  return (
    <Typography variant="caption" color="text.secondary" component="p">
      {messages
        .map(
          (m) =>
            `${m.receiver} ${m.turn === 'raised' ? '' : `${m.turn} `}${m.state}${m.state === 'failed' ? ` (${m.note})` : ''}`,
        )
        .join(' · ')}
    </Typography>
  );
}

/** A form that is sent with a reason. */
function ReasonForm({
  name,
  field,
  button,
  onSend,
  onDone,
  children,
}: {
  name: string;
  field: string;
  button: string;
  onSend: (reason: string) => Promise<unknown>;
  onDone: () => Promise<void>;
  children?: ReactNode;
}) {
  const [reason, setReason] = useState('');
  const sending = useMutation({ mutationFn: () => onSend(reason), onSuccess: onDone });
  return (
    <Box
      component="form"
      aria-label={name}
      onSubmit={(e) => {
        e.preventDefault();
        sending.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}
    >
      {children}
      <TextField
        autoFocus
        label={field}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        sx={{ flex: '1 1 240px' }}
      />
      <Button
        type="submit"
        variant="contained"
        sx={gloved}
        disabled={reason.trim().length < 3 || sending.isPending}
      >
        {button}
      </Button>
      <ProblemNote error={sending.error} />
    </Box>
  );
}

function Acknowledge({ alarm, onDone }: { alarm: AlarmView; onDone: () => Promise<void> }) {
  const path = `/api/v1/stations/${alarm.stationId}/alarms/${alarm.id}/acknowledge`;
  return (
    <ReasonForm
      name="Acknowledge"
      field="What it was, or what is done"
      button="I know of it"
      onSend={(reason) => send('POST', path, { reason } satisfies AcknowledgeAlarm)}
      onDone={onDone}
    />
  );
}

/** Shelves, or takes what is shelved off the shelf. */
function Shelving({
  alarm,
  isOpen,
  onOpen,
  onDone,
}: {
  alarm: AlarmView;
  isOpen: boolean;
  onOpen: () => void;
  onDone: () => Promise<void>;
}) {
  const end = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${alarm.stationId}/channels/${alarm.channelId}/watch/shelf/end`),
    onSuccess: onDone,
  });
  if (alarm.shelvedUntil)
    return (
      <>
        <Button sx={gloved} disabled={end.isPending} onClick={() => end.mutate()}>
          Off the shelf
        </Button>
        <ProblemNote error={end.error} />
      </>
    );
  return (
    <Button sx={gloved} aria-expanded={isOpen} onClick={onOpen}>
      Shelve
    </Button>
  );
}

const shelfHours = [1, 4, 8, 24, 72, 168, 720];

function Shelve({ alarm, onDone }: { alarm: AlarmView; onDone: () => Promise<void> }) {
  const [hours, setHours] = useState(8);
  const shelve = (reason: string) =>
    send('POST', `/api/v1/stations/${alarm.stationId}/channels/${alarm.channelId}/watch/shelf`, {
      shelfId: newId(),
      // A minute less: the server looks at its own clock.
      until: new Date(Date.now() + hours * 3_600_000 - 60_000).toISOString(),
      reason,
    } satisfies ShelveAlarms);
  return (
    <ReasonForm name="Shelve" field="Why" button="Shelve" onSend={shelve} onDone={onDone}>
      <Typography variant="body2" sx={{ flexBasis: '100%' }}>
        Nobody is told of alarms of {alarm.name} until then. They ring and are kept all the same.
      </Typography>
      <TextField
        select
        label="For"
        value={hours}
        onChange={(e) => setHours(Number(e.target.value))}
        sx={{ width: 130 }}
      >
        {shelfHours.map((h) => (
          <MenuItem key={h} value={h}>
            {formatAge(h * 3600)}
          </MenuItem>
        ))}
      </TextField>
    </ReasonForm>
  );
}

/** What became of an alarm, line by line. */
function Events({ alarm, isOne }: { alarm: AlarmView; isOne: boolean }) {
  const path = `/api/v1/stations/${alarm.stationId}/alarms/${alarm.id}`;
  const { data, error } = useQuery({
    queryKey: [path, alarm.returnedAt, alarm.acknowledged?.at],
    queryFn: () => load<AlarmEventView[]>(path),
  });
  return (
    <Box sx={{ pl: { xs: 0, sm: 4.75 }, mt: 1 }}>
      {!isOne && (
        <Typography variant="body2" sx={{ fontWeight: 600 }}>
          {alarm.name}: {alarm.says}
        </Typography>
      )}
      <ProblemNote error={error} />
      {data?.map((e, i) => (
        <Typography key={i} variant="body2" color="text.secondary">
          {timeText(e.at, alarm.zone)} · {e.kind} · {e.by} · {e.says}
        </Typography>
      ))}
    </Box>
  );
}
