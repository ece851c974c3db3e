import Box from '@mui/material/Box';

/** The working of a result, always beside it. */
export function Sum({ children }: { children: React.ReactNode }) {
  return (
    <Box
      component="span"
      sx={{
        fontFamily: '"IBM Plex Mono", monospace',
        fontSize: '0.86em',
        color: 'text.secondary',
        overflowWrap: 'anywhere',
      }}
    >
      {children}
    </Box>
  );
}
