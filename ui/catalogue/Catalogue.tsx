'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { connectionText } from '@/core/device/connection';
import type { DeviceProfile } from '@/core/device/equipment';
import { outputInSentence, outputName, type SensorProfile } from '@/core/device/profile';
import { newSensorProfile } from '@/core/device/templates';
import { refuseHere, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { ProfileForm } from './ProfileForm';

const kinds: readonly { readonly kind: DeviceProfile['kind']; readonly name: string }[] = [
  { kind: 'sensor', name: 'Sensors' },
  { kind: 'logger', name: 'Loggers and controllers' },
  { kind: 'gateway', name: 'Gateways' },
  { kind: 'board', name: 'Boards' },
  { kind: 'accessory', name: 'Accessories' },
];
/** More than a profile ever is: what is larger is another file. */
const largest = 256 * 1024;

/** Device profiles: what there is, added, copied, edited as a new revision, exchanged as JSON. */
export function Catalogue({ profiles }: { profiles: readonly DeviceProfile[] }) {
  const router = useRouter();
  const [text, setText] = useState('');
  const [editing, setEditing] = useState<SensorProfile | null>(null);
  const mayAdd = useMay('set-up');
  const saved = () => {
    setEditing(null);
    router.refresh();
  };
  const bring = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > largest)
        throw refuseHere(
          'file-too-large',
          'file',
          `${file.name} has ${(file.size / 1024).toFixed(0)} kB, a profile has ${largest / 1024} at most.`,
          'Choose the JSON file of one profile.',
        );
      let profile: unknown;
      try {
        profile = JSON.parse(await file.text());
      } catch {
        throw refuseHere(
          'not-json',
          'file',
          `${file.name} is not JSON.`,
          'Choose the JSON file of one profile.',
        );
      }
      return send('POST', '/api/v1/profiles', { profile });
    },
    onSuccess: saved,
  });
  const holds = (p: DeviceProfile) =>
    `${p.name} ${p.code} ${p.kind === 'sensor' ? `${connectionText(p.connection)} ${p.outputs.map((o) => outputName(o)).join(' ')}` : ''}`
      .toLowerCase()
      .includes(text.trim().toLowerCase());
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Catalogue
        </Typography>
        <TextField label="Find" value={text} onChange={(e) => setText(e.target.value)} />
        {mayAdd && (
          <>
            <Button component="label" sx={gloved}>
              Bring in JSON
              <input
                type="file"
                accept="application/json,.json"
                hidden
                onChange={(e) => {
                  const [file] = e.target.files ?? [];
                  e.target.value = '';
                  if (file) bring.mutate(file);
                }}
              />
            </Button>
            <Button variant="contained" sx={gloved} onClick={() => setEditing(newSensorProfile('voltage'))}>
              New sensor
            </Button>
          </>
        )}
      </Box>
      <ProblemNote error={bring.error} />
      {editing && (
        <ProfileForm
          key={`${editing.code} ${editing.revision}`}
          initial={editing}
          onSaved={saved}
          onCancel={() => setEditing(null)}
        />
      )}
      {kinds.map(({ kind, name }) => {
        const found = profiles.filter((p) => p.kind === kind && holds(p));
        return found.length === 0 ? null : (
          <Box key={kind} component="section" aria-label={name} sx={{ mb: 3 }}>
            <Typography variant="h2" sx={{ mb: 0.5 }}>
              {name}{' '}
              <Typography component="span" color="text.secondary">
                {found.length}
              </Typography>
            </Typography>
            {found.map((p) => (
              <Box
                key={p.code}
                sx={{
                  display: 'grid',
                  gridTemplateColumns: { xs: '1fr', md: '390px 1fr auto' },
                  gap: { xs: 0, md: 2 },
                  alignItems: 'baseline',
                  borderTop: 1,
                  borderColor: 'divider',
                  py: 0.75,
                }}
              >
                <Typography>
                  {p.name}{' '}
                  <Typography component="span" variant="caption" color="text.secondary">
                    {p.code} {p.revision}
                  </Typography>
                </Typography>
                <Typography variant="body2" color="text.secondary">
                  {says(p)}
                </Typography>
                <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                  <Link href={`/api/v1/profiles/${p.code}`} download={`${p.code}-${p.revision}.json`}>
                    JSON
                  </Link>
                  {mayAdd && p.kind === 'sensor' && (
                    <>
                      <Button
                        size="small"
                        variant="text"
                        onClick={() => setEditing({ ...p, revision: p.revision + 1 })}
                      >
                        Edit
                      </Button>
                      <Button
                        size="small"
                        variant="text"
                        onClick={() =>
                          setEditing({ ...p, code: `${p.code}-copy`, name: `${p.name} (copy)`, revision: 1 })
                        }
                      >
                        Copy
                      </Button>
                    </>
                  )}
                </Box>
              </Box>
            ))}
          </Box>
        );
      })}
    </>
  );
}

function says(p: DeviceProfile): string {
  switch (p.kind) {
    case 'sensor':
      return `${connectionText(p.connection)} · ${p.outputs.map((o) => outputInSentence(o)).join(', ')}`;
    case 'logger':
      return `${p.ports.map((x) => x.name).join(', ')} · ${p.channels} channels, ${p.memory} readings`;
    case 'gateway':
      return `carries ${p.carries.join(', ')}, ${p.framing} framing`;
    case 'board':
      return `${p.logic} V logic${p.mains ? ' that may sit at mains potential' : ''}`;
    case 'accessory':
      return p.does.as.replace('-', ' ');
  }
}
