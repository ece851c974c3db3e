import { inSentence } from '../quantity/quantity';
import { procedureCodes } from './codes';
import { procedureOf } from './procedures';

const againstWords = {
  instrument: 'an instrument beside it',
  standards: 'standards of the kit',
  nature: 'what nature gives',
} as const;

/** The procedures as the table of docs/procedures.md. */
export const proceduresTable = (): string =>
  [
    '| code | name | good for | against | read beside it | source |',
    '| --- | --- | --- | --- | --- | --- |',
    ...procedureCodes.map((code) => {
      const { name, quantities, against, companions, isLate, source } = procedureOf(code);
      const beside = Object.values(companions)
        .map((c) => `${c.name}${c.isNeeded ? '' : ' (if read)'}`)
        .join('; ');
      const of = quantities.map((q) => inSentence(q)).join(', ');
      return `| \`${code}\` | ${name} | ${of} | ${againstWords[against]}${isLate ? ', which comes later' : ''} | ${beside || '–'} | ${source} |`;
    }),
  ].join('\n');
