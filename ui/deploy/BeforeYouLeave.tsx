'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { DeployNowView } from '@/contract/deployViews';
import type { LeaveItem } from '@/core/deploy/beforeYouLeave';
import { load } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

const titles: Readonly<Record<LeaveItem['of'], string>> = {
  recording: 'Recording',
  values: 'Values now',
  memory: 'Memory',
  battery: 'Battery',
  clock: 'Clock',
  'next-row': 'Next row',
  leads: 'Leads',
  settings: 'Settings',
};

/** Whether one can walk away: each point good, or what is wrong and what to do. */
export function BeforeYouLeave({ stationId, launchId }: { stationId: string; launchId: string }) {
  const { zone } = useStationBasics();
  const path = `/api/v1/stations/${stationId}/deployment/now`;
  const { data, error, isFetching, refetch } = useQuery({
    queryKey: [path, launchId],
    queryFn: () => load<DeployNowView>(path),
    staleTime: Infinity,
    retry: false,
  });
  const left = data?.leave.filter((i) => !i.good).length ?? 0;
  return (
    <Box component="section" aria-label="Before you leave" sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2">Before you leave</Typography>
        <Button sx={gloved} disabled={isFetching} onClick={() => void refetch()}>
          {isFetching ? 'Looking …' : 'Look again'}
        </Button>
      </Box>
      <ProblemNote error={error} />
      {data && (
        <>
          <Typography role="status" sx={{ my: 1, fontSize: '1.15rem' }}>
            {left === 0 ? (
              <b>You can leave it: all {data.leave.length} points are good.</b>
            ) : (
              <b>
                Not yet: {left} of {data.leave.length} points {left === 1 ? 'is' : 'are'} open.
              </b>
            )}{' '}
            <Typography component="span" variant="body2" color="text.secondary">
              Looked at {secondText(data.at, zone)}
            </Typography>
          </Typography>
          <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
            {data.leave.map((i) => (
              <Box
                component="li"
                key={i.of}
                sx={{ display: 'flex', gap: 1.5, borderTop: 1, borderColor: 'divider', py: 0.75 }}
              >
                <StateMark state={i.good ? 'sound' : 'displaced'} />
                <Box>
                  <Typography>
                    <b>{titles[i.of]}</b> · {i.good ? 'good' : 'open'}: {i.says}
                  </Typography>
                  {i.remedy && <Typography>{i.remedy}</Typography>}
                </Box>
              </Box>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
