// `npm run build`: the application and the shell that devices keep.
import { ensureBuild } from './machine.mjs';

await ensureBuild();
