/** What goes on paper: always light, rows and sections whole, heads of tables on each page. */
export const sheet = {
  bgcolor: '#fff',
  color: '#221a14',
  p: 2,
  maxWidth: 820,
  '@media print': {
    p: 0,
    maxWidth: 'none',
    '& .screen-only': { display: 'none' },
    '& svg[role=group]': { maxHeight: '178mm' },
  },
  '& h2, & h3': { breakAfter: 'avoid' },
  '& section, & tr': { breakInside: 'avoid' },
  printColorAdjust: 'exact',
  WebkitPrintColorAdjust: 'exact',
  fontSize: 13,
  '& table': { borderCollapse: 'collapse', width: '100%', fontSize: 12.5 },
  '& thead': { display: 'table-header-group' },
} as const;

/** A cell of a table on paper. */
export const sheetCell = {
  borderBottom: '1px solid #b9b2a4',
  px: 0.75,
  py: 0.25,
  textAlign: 'left',
} as const;
