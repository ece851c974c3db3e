// `npm run bench`: speed against yardsticks measured in the same run. Not a test: nothing fails here.
// `npm run bench -- import quality` runs only those parts.
import { ensureDebian, ensurePackages, debian, root, run, say } from '../scripts/machine.mjs';

ensureDebian([debian.postgresql]);
ensurePackages();
const { startPostgres } = await import('../scripts/postgres.mjs');
say('A PostgreSQL cluster of its own, as durable as a real one …');
const postgres = await startPostgres('bench', { fresh: true });
let status = 1;
try {
  status = run(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', 'benchmarks/main.ts', ...process.argv.slice(2)],
    {
      cwd: root,
      env: {
        ...process.env,
        NODE_ENV: 'production',
        SUPER_URL: postgres.superUrl(),
        OWNER_URL: postgres.ownerUrl('bench'),
        BENCH_URL: postgres.appUrl('bench'),
        OWNER_PASSWORD: postgres.secrets.owner,
        APP_PASSWORD: postgres.secrets.app,
      },
    },
  );
} finally {
  postgres.stop();
}
process.exit(status);
