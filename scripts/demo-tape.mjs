// Makes the demo's tape anew: a whole game, played by the simulators in no time, cut to its key minutes.
// `node scripts/demo-tape.mjs`, after a build, writes data/demo/tapes/key-minutes.jsonl.gz.
import { home } from './lib/settings.mjs';
import { loadTool } from './lib/tool.mjs';

const { make } = await loadTool(['scripts/demo-tape/make.ts'], 'dist/demo-tape');
console.log(await make(home));
process.exit(0);
