import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { RecoveryView } from '@/contract/busViews';
import { causeKinds, causes, type Cause } from '@/core/recovery/cause';
import { StateMark } from '../shared/stateMark';

const places = [
  ['gateway', 'Gateway and line'],
  ['leads', 'Its pair'],
  ['supply', 'Its supply'],
  ['settings', 'Its settings'],
  ['device', 'The device'],
] as const;

/** The way from the gateway to the device, and what may still be wrong at each place along it. */
export function Causes({ state }: { state: RecoveryView['state'] }) {
  const because = new Map(state.excluded.map((x) => [x.cause, x.because]));
  const judged = (c: Cause): 'sound' | 'missing' | 'displaced' => {
    if (state.verdict === 'answers') return 'sound';
    if (state.found === c) return 'displaced';
    return because.has(c) ? 'sound' : 'missing';
  };
  const words = {
    sound: 'out of the question',
    missing: state.found ? 'not looked at any further' : 'may be',
    displaced: 'found',
  };
  return (
    <Box component="ol" aria-label="What it may be" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {places.map(([place, name], i) => (
        <Box component="li" key={place} sx={{ display: 'flex', gap: 1.5 }}>
          <Box
            aria-hidden
            sx={{ width: 14, flexShrink: 0, display: 'flex', flexDirection: 'column', alignItems: 'center' }}
          >
            <Box sx={{ width: 3, height: 10, bgcolor: i === 0 ? 'transparent' : 'divider' }} />
            <Box
              sx={{
                width: 12,
                height: 12,
                border: 3,
                borderColor: 'text.secondary',
                borderRadius: i === 0 || i === 4 ? 0 : '50%',
              }}
            />
            <Box sx={{ width: 3, flexGrow: 1, bgcolor: i === 4 ? 'transparent' : 'divider' }} />
          </Box>
          <Box sx={{ pb: 1, minWidth: 0 }}>
            <Typography variant="h3" sx={{ mt: 0.5 }}>
              {name}
            </Typography>
            {causes
              .filter((c) => causeKinds[c].place === place)
              .map((c) => {
                const is = judged(c);
                return (
                  <Box key={c} sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', my: 0.25 }}>
                    <Box sx={{ pt: 0.25 }}>
                      <StateMark state={is} />
                    </Box>
                    <Box>
                      <Box
                        component="span"
                        sx={
                          is === 'displaced' || (is === 'missing' && !state.found)
                            ? { fontWeight: 600 }
                            : { color: 'text.secondary' }
                        }
                      >
                        {causeKinds[c].name}
                      </Box>{' '}
                      <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.92em' }}>
                        {words[is]}
                        {is === 'sound' && because.has(c) && `: ${because.get(c)}`}
                      </Box>
                    </Box>
                  </Box>
                );
              })}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
