// Builds the application if it is older than its sources.
import { ensureBuild } from './machine.mjs';

ensureBuild();
