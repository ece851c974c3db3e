import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { Field } from '@/core/quality/qualityTest';
import { qualityTestName, testOf, type SetTest } from '@/core/quality/tests';
import type { Unit } from '@/core/quantity/unit';

/** What stands in a field: typed, or as it is saved. */
export type TextOf = (test: SetTest, field: string, month?: number) => string;

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

const fieldsOf = (test: SetTest) => Object.entries<Field>(testOf(test).fields);

/** A typed number; NaN for what is none, so that the server names the field. */
const numberIn = (text: string): number | null =>
  text.trim() === '' ? null : Number(text.trim().replace(',', '.').replace('−', '-'));

/** Limits as they are typed; null for a test whose fields are all empty: it is switched off. */
export function limitsTyped(test: SetTest, textOf: TextOf): Record<string, unknown> | null {
  const values = fieldsOf(test).map(([field, { is }]): [string, number | null | (number | null)[]] => [
    field,
    is === 'months' ? months.map((_, m) => numberIn(textOf(test, field, m))) : numberIn(textOf(test, field)),
  ]);
  if (values.flatMap(([, v]) => v).every((v) => v === null)) return null;
  return Object.fromEntries(values.map(([field, v]) => [field, v ?? Number.NaN]));
}

const capital = (words: string) => words[0]!.toUpperCase() + words.slice(1);

const foundText = ({ suspect, failed }: { suspect: number; failed: number }): string =>
  suspect + failed === 0
    ? 'flags none'
    : `flags ${[failed && `${failed} failed`, suspect && `${suspect} suspect`].filter(Boolean).join(', ')}`;

/** The fields of one quality test, as its object in core/quality asks for them. */
export function TestFields({
  test,
  unit,
  disabled,
  textOf,
  onType,
  onLearn,
  found,
  wrong,
}: {
  test: SetTest;
  unit: Unit;
  disabled: boolean;
  textOf: TextOf;
  onType: (field: string, month: number | undefined, text: string) => void;
  /** Fills the fields with what the record itself says. */
  onLearn: () => void;
  /** What it would flag in the window. */
  found: { suspect: number; failed: number } | null;
  wrong: (field: string) => boolean;
}) {
  const name = capital(qualityTestName(test));
  const units = { value: unit, difference: unit, perHour: `${unit}/h`, hours: 'h', months: unit };
  const input = (field: string, { label, is }: Field, month?: number) => (
    <TextField
      key={`${field} ${month}`}
      label={month === undefined ? `${name}: ${label}` : `${months[month]} ${label}`}
      value={textOf(test, field, month)}
      error={wrong(field)}
      disabled={disabled}
      onChange={(e) => onType(field, month, e.target.value)}
      slotProps={{ input: { endAdornment: <Box sx={{ color: 'text.secondary' }}>{units[is]}</Box> } }}
      sx={{ width: month === undefined ? 200 : 130 }}
    />
  );
  const { learn } = testOf(test);
  const byMonth = fieldsOf(test).filter(([, f]) => f.is === 'months');
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
      <Box sx={{ width: 170 }}>
        <b>{name}</b>
      </Box>
      {fieldsOf(test).map(([field, spec]) => spec.is !== 'months' && input(field, spec))}
      <Box sx={{ color: 'text.secondary' }}>{testOf(test).says}</Box>
      {found && <b>{foundText(found)}</b>}
      {learn && !disabled && (
        <Button size="small" onClick={onLearn}>
          {learn.name}
        </Button>
      )}
      {byMonth.length > 0 && (
        <Box
          sx={{ flexBasis: '100%', display: 'grid', gap: 1, gridTemplateColumns: 'repeat(auto-fill, 270px)' }}
        >
          {months.map((month, m) => (
            <Box key={month} sx={{ display: 'flex', gap: 1 }}>
              {byMonth.map(([field, spec]) => input(field, spec, m))}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
