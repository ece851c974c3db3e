'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { SetUpView } from '@/contract/planViews';
import { send } from '../shared/api';
import { placeText } from '../shared/place';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { ChangeStationForm } from './ChangeStationForm';
import { LinesForm } from './LinesForm';
import { NewStationForm } from './NewStationForm';
import { SiteForm } from './SiteForm';
import { SiteMap } from './SiteMap';

type Open =
  | { readonly form: 'new'; readonly like: string | null }
  | { readonly form: 'station' | 'lines'; readonly id: string }
  | { readonly form: 'site'; readonly id: string }
  | null;

/** Sites and their stations: made, copied, renamed, moved, retired. */
export function SetUp({ view }: { view: SetUpView }) {
  const router = useRouter();
  const [open, setOpen] = useState<Open>(null);
  const done = () => {
    setOpen(null);
    router.refresh();
  };
  const reopen = useMutation({
    mutationFn: (id: string) =>
      send('POST', `/api/v1/stations/${id}/retire`, { retired: false, reason: 'in use again' }),
    onSuccess: done,
  });
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Sites and stations
        </Typography>
        <Button
          variant="contained"
          sx={gloved}
          onClick={() => setOpen(open?.form === 'new' ? null : { form: 'new', like: null })}
        >
          {open?.form === 'new' ? 'Close the form' : 'Add a station'}
        </Button>
      </Box>
      <ProblemNote error={reopen.error} />
      {open?.form === 'new' && <NewStationForm key={open.like} view={view} like={open.like} onMade={done} />}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', lg: '1fr 420px' },
          gap: 3,
          alignItems: 'start',
        }}
      >
        <Box>
          {view.sites.length === 0 && (
            <Typography>There is no station yet. Add the first; its site is made with it.</Typography>
          )}
          {view.sites.map((site) => (
            <Box
              key={site.id}
              component="section"
              aria-label={site.name}
              sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}
            >
              <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap' }}>
                <Typography variant="h2">{site.name}</Typography>
                <Typography variant="body2" color="text.secondary" sx={{ flexGrow: 1 }}>
                  {[
                    site.note,
                    site.zone,
                    site.latitude !== null &&
                      site.longitude !== null &&
                      placeText(site.latitude, site.longitude, 3),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Typography>
                <Button size="small" variant="text" onClick={() => setOpen({ form: 'site', id: site.id })}>
                  Change the site
                </Button>
              </Box>
              {open?.form === 'site' && open.id === site.id && (
                <SiteForm site={site} onDone={done} onCancel={() => setOpen(null)} />
              )}
              {site.stations.map((s) => (
                <Box key={s.id}>
                  <Box
                    sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', minHeight: 44 }}
                  >
                    <Link component={PageLink} href={`/stations/${s.id}`} sx={{ minWidth: 90 }}>
                      {s.code}
                    </Link>
                    <Typography sx={{ flexGrow: 1, textDecoration: s.retired ? 'line-through' : undefined }}>
                      {s.name}
                      <Typography component="span" variant="body2" color="text.secondary" sx={{ ml: 1.5 }}>
                        {s.retired ? 'retired' : (s.logger?.model ?? 'no logger')}
                      </Typography>
                    </Typography>
                    <Button size="small" variant="text" onClick={() => setOpen({ form: 'new', like: s.id })}>
                      Copy
                    </Button>
                    {s.logger && !s.retired && (
                      <Button
                        size="small"
                        variant="text"
                        onClick={() => setOpen({ form: 'lines', id: s.id })}
                      >
                        Logger and lines
                      </Button>
                    )}
                    {s.retired ? (
                      <Button size="small" variant="text" onClick={() => reopen.mutate(s.id)}>
                        Open again
                      </Button>
                    ) : (
                      <Button
                        size="small"
                        variant="text"
                        onClick={() => setOpen({ form: 'station', id: s.id })}
                      >
                        Change
                      </Button>
                    )}
                  </Box>
                  {open?.form === 'lines' && open.id === s.id && (
                    <LinesForm view={view} station={s} onDone={done} onCancel={() => setOpen(null)} />
                  )}
                  {open?.form === 'station' && open.id === s.id && (
                    <ChangeStationForm
                      view={view}
                      siteId={site.id}
                      station={s}
                      onDone={done}
                      onCancel={() => setOpen(null)}
                    />
                  )}
                </Box>
              ))}
            </Box>
          ))}
        </Box>
        <SiteMap sites={view.sites} />
      </Box>
    </>
  );
}
