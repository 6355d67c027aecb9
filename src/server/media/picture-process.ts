import { inspect } from './inspect.ts';
import type { Asked, Told } from './pictures.ts';
import { shrunk } from './small.ts';

/**
 * A process of its own in which pictures are looked at and made small: what decodes them is native code, and bytes from
 * outside that bring it down bring down nothing else.
 */
process.on('message', ({ id, ...work }: Asked) => {
  const done = 'inspect' in work ? inspect(work.inspect.bytes, work.inspect.name) : shrunk(work.shrink);
  done.then(
    (result) => process.send!({ id, result } satisfies Told),
    (error: Error) => process.send!({ id, problem: error.message } satisfies Told),
  );
});
// It does not outlive who asks.
process.on('disconnect', () => process.exit(0));
