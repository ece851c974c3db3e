'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { MethodOfQuantity } from '@/contract/persons';
import { procedureOf } from '@/core/procedure/procedures';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import PageLink from '../shared/PageLink';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';

/** One method per quantity for all persons; and where it matters by whom a sensor was checked, that is shown. */
export function Methods({ initial }: { initial: readonly MethodOfQuantity[] }) {
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Methods and persons
        </Typography>
        <Button component={PageLink} href="/kit" sx={gloved}>
          Back to the kit
        </Button>
      </Box>
      <Typography sx={{ mb: 2, maxWidth: 760 }}>
        Checks of the last two years. Two persons who checked the same unchanged sensor one after the other
        are a pair; whose pairs differ by more than chance does something differently: too early, breathed on,
        another spot. It is no mark for anybody: go and do one together.
      </Typography>
      {initial.length === 0 && <Typography>No check was closed yet.</Typography>}
      {initial.map((m) => (
        <Method key={m.quantity} of={m} />
      ))}
    </>
  );
}

function Method({ of: { quantity, procedures, persons } }: { of: MethodOfQuantity }) {
  const { name, unit, decimals } = quantityOf(quantity);
  const d = decimals + 1;
  return (
    <Box component="section" aria-label={name} sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}>
      <Typography variant="h2">{name}</Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <StateMark state={procedures.length === 1 ? 'sound' : 'missing'} />
        <Typography>
          {procedures.map((p) => `${procedureOf(p.code).name} (${p.checks})`).join('; ')}
        </Typography>
      </Box>
      {persons.map((p) => (
        <Box key={p.person} sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
          <StateMark state={p.differs ? 'displaced' : p.mean === null ? 'missing' : 'sound'} />
          <Typography>
            <b>{p.initials}</b>: {p.checks} {p.checks === 1 ? 'check' : 'checks'},{' '}
            {p.mean === null
              ? `${p.pairs} beside another person’s: three say something`
              : `finds ${formatDifference(p.mean, d)} ± ${formatValue(p.doubt, d)} ${unit} more than the others in ${p.pairs} pairs${p.differs ? ', more than chance' : ', no more than chance'}`}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
