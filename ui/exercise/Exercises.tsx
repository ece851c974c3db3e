'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { ExerciseView } from '@/contract/bench';
import { VirtualCabinet } from './VirtualCabinet';

/** Cabinets with something the matter, to find it in. Nothing real is touched, nothing is written in the field book. */
export function Exercises({ all, asked }: { all: readonly ExerciseView[]; asked: number }) {
  const one = all.find((e) => e.exercise.number === asked);
  if (one) return <VirtualCabinet view={one} key={asked} last={all.length} />;
  return (
    <>
      <Typography variant="h1">Exercises</Typography>
      <Typography sx={{ mb: 2 }}>
        Cabinets with something the matter. Plan, measure, name it; the debrief compares with the tool’s own
        plan. Nothing real is touched, nothing is written in the field book.
      </Typography>
      {(['easy', 'middling', 'hard'] as const).map((grade) => (
        <Box component="section" key={grade} aria-label={grade} sx={{ mb: 2 }}>
          <Typography variant="h2">{grade.charAt(0).toUpperCase() + grade.slice(1)}</Typography>
          {all
            .filter((e) => e.exercise.grade === grade)
            .map(({ exercise: e, profile }) => (
              <Box key={e.number} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
                <Link
                  component={PageLink}
                  href={`/exercises?n=${e.number}`}
                  sx={{ fontWeight: 600, display: 'inline-block', minHeight: 32 }}
                >
                  {e.number} {e.title}
                </Link>
                <Typography>
                  {e.story} <span>{profile.name}.</span>
                </Typography>
              </Box>
            ))}
        </Box>
      ))}
    </>
  );
}
