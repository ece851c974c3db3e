'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { DiscoverChain } from '@/contract/busRequests';
import type { ChainView, ConsoleView } from '@/contract/busViews';
import { Age } from '../shared/Age';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** A daisy chain as its logger finds it: plug one, look again, and see which is new. */
export function Chain({
  stationId,
  chain,
  onChanged,
}: {
  stationId: string;
  chain: ConsoleView['chains'][number];
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const look = useMutation({
    mutationFn: () =>
      send<ChainView>('POST', `/api/v1/stations/${stationId}/chain`, {
        actionId: newId(),
        port: chain.port,
      } satisfies DiscoverChain),
    onSuccess: onChanged,
  });
  const { last } = chain;
  const full = last.counted > last.most;
  return (
    <Box component="section" aria-label={`Chain ${chain.port}`} sx={{ mt: 3 }}>
      <Typography variant="h2">
        {chain.port} · {chain.system}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {last.at ? (
          <>
            looked at <Age at={last.at} />: {last.says}, counting as {last.counted} of at most {last.most}{' '}
            sensors
          </>
        ) : (
          'nobody has looked yet who hangs here'
        )}
        . It takes longer the more hang there.
      </Typography>
      {last.at && (
        <Box
          component="ol"
          aria-label="Units in their order"
          sx={{ listStyle: 'none', p: 0, my: 1, display: 'flex', flexWrap: 'wrap', rowGap: 1 }}
        >
          <Box
            component="li"
            sx={{ border: 2, borderColor: 'text.secondary', px: 1, display: 'flex', alignItems: 'center' }}
          >
            Logger
          </Box>
          {last.units.map((u) => (
            <Box component="li" key={u.unit} sx={{ display: 'flex', alignItems: 'center' }}>
              <Box
                aria-hidden
                sx={{ width: 18, height: 3, bgcolor: u.builtIn ? 'transparent' : 'divider' }}
              />
              <Box
                sx={{
                  border: 2,
                  borderStyle: u.builtIn ? 'dotted' : 'solid',
                  borderColor: u.isNew ? 'primary.main' : 'divider',
                  bgcolor: u.isNew ? 'ground.skyWash' : 'background.paper',
                  px: 1,
                  py: 0.5,
                }}
              >
                <b>{u.builtIn ? 'Built in' : u.unit}</b>
                {u.isNew && ' · new'}
                <Box sx={{ fontSize: '0.85rem' }}>
                  {u.builtIn
                    ? 'takes a place, and is not what was plugged in'
                    : `${u.model}${u.counts > 1 ? `, one unit that counts as ${u.counts}` : ''}`}
                </Box>
                {!u.builtIn && (
                  <Box sx={{ fontSize: '0.85rem', color: 'text.secondary' }}>
                    {u.zoneName ?? 'nothing on file yet: connect it on the wiring plan'}
                  </Box>
                )}
              </Box>
            </Box>
          ))}
        </Box>
      )}
      {last.missing.map((m) => (
        <Typography key={m.serial} sx={{ color: 'error.main' }}>
          <b>{m.serial}</b> ({m.zoneName}) is on file here and was not found: its plug, or the one before it.
        </Typography>
      ))}
      {full && (
        <Typography sx={{ color: 'error.main' }}>
          <b>Too many:</b> they count as {last.counted}, the chain takes {last.most}.
        </Typography>
      )}
      <ProblemNote error={look.error} />
      {mayMeasure && (
        <Button variant="outlined" sx={gloved} disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? 'Looking …' : last.at ? 'Look again' : 'Look who hangs here'}
        </Button>
      )}
    </Box>
  );
}
