import type { ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import mariadb from 'mariadb';
import { endProcess, startProgram } from '../../scripts/lib/processes.mjs';
import { engineFile, home, simFile } from '../../scripts/lib/settings.mjs';
import type { Command, ControllerView } from '../../src/sim/controller.ts';
import type { GameAction } from '../../src/sim/game.ts';
import { startSimulators } from '../../src/sim/simulators.ts';
import type { FieldReadout } from '../../src/server/live/readouts.ts';
import { EngineHost } from './engine-host.ts';
import { freeRun } from './ports.ts';

export const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Where tests find MariaDB, and the name of the database in it that holds the demo world. */
export interface Database {
  port: number;
  password: string;
  seeded?: string;
}

/** The one that all tests share. */
export const sharedDatabase = () => JSON.parse(process.env['FOOTHILL_TEST_DB']!) as Database;

export interface ActionAnswer {
  status: number;
  ok: boolean;
  text?: string;
  reason?: string;
}

/** A text as SQL has it. */
export const quoted = (text: string) => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;

interface WorldOptions {
  db?: Database;
  /** Without the simulated controller and services, where it says no. */
  sim?: boolean;
  name?: string;
  /**
   * It runs in what this process keeps for one world after another, until its engine is killed; a program that is started for
   * each reads itself for longer than most tests take. Otherwise it runs in programs of its own.
   */
  kept?: boolean;
}

/** A whole Foothill for tests: engine and simulated controller on ports of their own, the demo world in it. */
export class World {
  /** Those that run, and what the engines of those said that ended while a test was on. */
  static readonly running = new Set<World>();
  static readonly ended: string[] = [];
  engine!: ChildProcess;
  /** The ids of all actions that were acknowledged. */
  readonly acknowledged: string[] = [];
  port!: number;
  simPort!: number;
  /** What its engine runs in, where that is kept for the next world. */
  private host: EngineHost | null = null;
  private endSim: () => void = () => {};
  private data!: string;
  private db!: Database & { name: string };

  /** One that is begun later. */
  constructor(private readonly options: WorldOptions = {}) {}

  static async start(...options: ConstructorParameters<typeof World>): Promise<World> {
    const world = new World(...options);
    await world.begin();
    return world;
  }

  async begin(): Promise<void> {
    const { db, sim, name } = this.options;
    this.acknowledged.length = 0;
    this.simPort = await freeRun();
    // The engine's stands in the same run: nobody else is given it meanwhile.
    this.port = this.simPort + 16;
    this.db = {
      ...(db ?? sharedDatabase()),
      name: name ?? `foothill_${this.port}`,
    };
    this.data = mkdtempSync(join(tmpdir(), 'foothill-world-'));
    await Promise.all([this.makeDatabase(), sim !== false && this.startSim()]);
    World.running.add(this);
    if (!this.options.kept) return this.startEngine();
    this.host = await EngineHost.free();
    this.engine = this.host.process;
    await this.host.begin(this.env);
  }

  private async startSim(): Promise<void> {
    const { simPort: port, data } = this;
    if (this.options.kept) {
      const [pages, files] = [join(home, 'dist/sim/console'), join(data, 'inbox')];
      this.endSim = await startSimulators({ port, pages, files, serial: null, autopilot: null });
    } else {
      const env = { FOOTHILL_SIM_PORT: String(port), FOOTHILL_DATA: data };
      const sim = await startProgram({ name: 'simulators', file: simFile, env, data });
      this.endSim = () => sim.kill('SIGKILL');
    }
  }

  /** Makes this world's database: a copy of the seeded one where there is one, else empty, for the engine to fill. */
  private async makeDatabase(): Promise<void> {
    const { name, seeded } = this.db;
    await this.query(`CREATE OR REPLACE DATABASE ${name}`);
    if (!seeded) return;
    const tables = await this.query<{ t: string }[]>(
      `SELECT TABLE_NAME t FROM information_schema.TABLES WHERE TABLE_SCHEMA = '${seeded}'`,
    );
    const copy = tables.map(
      ({ t }) =>
        `CREATE TABLE ${name}.${t} LIKE ${seeded}.${t}; INSERT INTO ${name}.${t} SELECT * FROM ${seeded}.${t};`,
    );
    await this.query(copy.join(''));
  }

  /** Makes the demo world's database alone, once for many; gives what makes worlds of it. */
  static async seed(db: Database): Promise<Database> {
    // Under a name that no world's port can make: a later world must not begin by taking it away.
    const world = await World.start({ db, sim: false, name: 'foothill_seeded' });
    await endProcess(world.engine.pid!);
    await world.stop();
    return { ...db, seeded: world.db.name };
  }

  /** Asks the database itself. */
  async query<T>(sql: string): Promise<T> {
    const { port, password } = this.db;
    const connection = await mariadb.createConnection({
      host: '127.0.0.1',
      user: 'foothill',
      password,
      port,
      multipleStatements: true,
    });
    const rows = (await connection.query(sql)) as T;
    await connection.end();
    return rows;
  }

  get databaseName(): string {
    return this.db.name;
  }

  /** The ids in the as-run log. */
  async loggedActions(): Promise<string[]> {
    return (await this.query<{ id: string }[]>(`SELECT id FROM ${this.db.name}.actions`)).map((r) => r.id);
  }

  private get env(): Record<string, string> {
    return {
      FOOTHILL_PORT: String(this.port),
      FOOTHILL_HOST: '127.0.0.1',
      FOOTHILL_DB_PORT: String(this.db.port),
      FOOTHILL_DB_PASSWORD: this.db.password,
      FOOTHILL_DB_NAME: this.db.name,
      FOOTHILL_SIM_PORT: String(this.simPort),
      FOOTHILL_DATA: this.data,
      FOOTHILL_DEMO: '1',
      NODE_ENV: 'production',
    };
  }

  async startEngine(): Promise<void> {
    const { env, data } = this;
    this.engine = await startProgram({ name: 'engine', file: engineFile, env, data });
  }

  /** Kills the engine as a power cut would, and waits until it is gone. */
  async killEngine(): Promise<void> {
    this.host = null;
    const gone = new Promise((done) => this.engine.once('exit', done));
    this.engine.kill('SIGKILL');
    await gone;
  }

  async stop(): Promise<void> {
    if (World.running.delete(this)) World.ended.push(this.log);
    this.endSim();
    if (this.host) await this.host.end();
    else {
      this.engine?.kill('SIGKILL');
      await sleep(100);
    }
    this.host = null;
    rmSync(this.data, { recursive: true, force: true });
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** The simulated services: statistics, news, sheet. */
  get servicesUrl(): string {
    return `http://127.0.0.1:${this.simPort + 4}`;
  }

  /** The file that the simulated statistics program rewrites. */
  get statisticsFile(): string {
    return join(this.data, 'inbox/statistics.xml');
  }

  get simUrl(): string {
    return `http://127.0.0.1:${this.simPort + 1}`;
  }

  get log(): string {
    const file = join(this.data, 'engine.log');
    // One that could not start wrote none.
    return existsSync(file) ? readFileSync(file, 'utf8') : '';
  }

  /**
   * Asks for an action. A database on a busy machine may not answer in time, which the engine says plainly and the person asks
   * again: so does this, unless it is to ask but `once`.
   */
  async act(
    action: Record<string, unknown>,
    { headers = {}, once = false }: { headers?: Record<string, string>; once?: boolean } = {},
  ): Promise<ActionAnswer> {
    const id = crypto.randomUUID();
    const body = JSON.stringify({ id, ...action });
    const ask = () => fetch(`${this.url}/api/actions`, { method: 'POST', headers, body });
    const until = Date.now() + 30_000;
    let response = await ask();
    while (response.status === 503 && !once && Date.now() < until) response = await ask();
    if (response.ok) this.acknowledged.push(String(action['id'] ?? id));
    return { status: response.status, ...((await response.json()) as object) } as ActionAnswer;
  }

  async command(command: Command): Promise<ControllerView> {
    const response = await fetch(`${this.simUrl}/do`, { method: 'POST', body: JSON.stringify(command) });
    return (await response.json()) as ControllerView;
  }

  /** Works the simulated controller as a scorer would. */
  async score(...actions: GameAction[]): Promise<void> {
    for (const action of actions) await this.command({ kind: 'game', action });
  }

  async field(key: string): Promise<FieldReadout> {
    const response = await fetch(`${this.url}/state/fields.json`);
    const { fields } = (await response.json()) as { fields: FieldReadout[] };
    return fields.find((f) => f.key === key)!;
  }
}
