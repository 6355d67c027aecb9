import { once } from 'node:events';
import type { ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { build, type BuildOptions } from 'esbuild';
import { programs } from '../../scripts/build.mjs';
import { startProgram } from '../../scripts/lib/processes.mjs';
import { home } from '../../scripts/lib/settings.mjs';

const FILE = 'dist/engine/test-host.js';

/** Makes the program that hosts run, beside the engine's: it finds what the engine finds. */
export async function buildHost(): Promise<void> {
  const [engine] = programs;
  await build({ ...(engine as BuildOptions), entryPoints: { 'test-host': 'tests/support/host.ts' } });
}

/** A process that runs one engine after another. */
export class EngineHost {
  private static readonly waiting: EngineHost[] = [];

  private constructor(readonly process: ChildProcess) {}

  /** One that has nothing to run. */
  static async free(): Promise<EngineHost> {
    const known = this.waiting.pop();
    if (known) return known;
    const env = { NODE_ENV: 'production' };
    const [name, data] = [`host-${process.pid}`, process.env['FOOTHILL_TEST_HOSTS']!];
    return new EngineHost(await startProgram({ name, file: join(home, FILE), env, data }));
  }

  /** Starts an engine in it, as it is told by the variables that engines read. */
  async begin(env: Record<string, string>): Promise<void> {
    await this.ask({ begin: env });
  }

  /** Ends its engine; another may begin in it. */
  async end(): Promise<void> {
    await this.ask('end');
    EngineHost.waiting.push(this);
  }

  private async ask(what: object | 'end'): Promise<void> {
    if (!this.process.connected) throw new Error('The process of an engine has ended.');
    const ended = new AbortController();
    const answered = once(this.process, 'message', ended) as Promise<[{ failed?: string }]>;
    const gone = once(this.process, 'exit', ended).then(() => [
      { failed: 'The process of an engine ended.' },
    ]);
    this.process.send(what);
    const [answer] = await Promise.race([answered, gone as typeof answered]);
    ended.abort();
    if (answer.failed !== undefined) throw new Error(answer.failed);
  }
}
