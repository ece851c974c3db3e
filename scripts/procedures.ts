import { proceduresTable } from '@/core/procedure/proceduresTable';
import { betweenMarks } from './betweenMarks';

/** Writes the table of docs/procedures.md anew, between its marks. */
betweenMarks('docs/procedures.md', 'procedures', proceduresTable());
