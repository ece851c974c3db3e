import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import PageLink from '@/ui/shared/PageLink';

export default function NotFound() {
  return (
    <Box component="main" sx={{ p: 6, maxWidth: 640, mx: 'auto' }}>
      <Typography variant="h1">There is nothing at this address</Typography>
      <Typography sx={{ my: 2 }}>
        The station, check or channel may have another address now. Nothing is lost.
      </Typography>
      <PageLink href="/">Back to the Round</PageLink>
    </Box>
  );
}
