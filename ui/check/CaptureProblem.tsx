'use client';

import Button from '@mui/material/Button';
import type { Unit } from '@/core/quantity/unit';
import { Refusal } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';

/** What a refusal of a reading offers beside its sentence. */
interface Offered {
  readonly confirm?: boolean;
  readonly meant?: { readonly value: number; readonly unit: Unit } | null;
}

/** Why a reading was not taken, with what can be done about it: stand by it, or take what was likely meant. */
export function CaptureProblem({
  error,
  onConfirm,
  onMeant,
}: {
  error: Error | null;
  onConfirm: () => void;
  /** The field it is of, as it is named in the request, and what was likely meant. */
  onMeant: (field: string, meant: { readonly value: number; readonly unit: Unit }) => void;
}) {
  const problem = error instanceof Refusal ? error.problem : null;
  const { confirm, meant } = (problem?.extra ?? {}) as Offered;
  return (
    <ProblemNote error={error}>
      {confirm && (
        <Button size="small" sx={{ mt: 1, mr: 1 }} onClick={onConfirm}>
          The display really shows this
        </Button>
      )}
      {meant && (
        <Button size="small" sx={{ mt: 1 }} onClick={() => onMeant(problem?.field ?? 'reference', meant)}>
          Use {meant.value} {meant.unit}
        </Button>
      )}
    </ProblemNote>
  );
}
