import { connect, type Socket } from 'node:net';
import type { Logger } from 'pino';
import { FrameDecoder, type Frame } from '../../core/decode/decoder.ts';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import { healthOf, retryWait, type Health } from '../../core/source/health.ts';
import type { SourceDoc } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { serverNow } from '../live/hub.ts';

/** A TCP client that turns a controller's bytes into frames, and connects again with growing waits. */
export class TcpSource {
  private socket: Socket | null = null;
  private timer: NodeJS.Timeout | null = null;
  private tries = 0;
  private stopped = false;
  private readonly decoder: FrameDecoder;
  private lastWord: number | null = null;
  private recent: number[] = [];
  private trouble: SourceState['trouble'] = null;
  private badChecks = 0;
  refused = 0;
  health: Health = 'lost';
  /** The newest good frame and when it came. */
  last: { frame: Frame; at: number } | null = null;

  constructor(
    readonly doc: SourceDoc,
    readonly map: FrameMap,
    private readonly onFrame: (frame: Frame, at: number) => void,
    private readonly log: Logger,
  ) {
    this.decoder = new FrameDecoder(map);
  }

  start(): void {
    const { host, port } = this.doc.transport;
    const socket = connect({ host, port });
    this.socket = socket;
    socket.setNoDelay(true);
    socket.setTimeout(Math.max(5000, this.doc.limits.lost * 2), () =>
      socket.destroy(new Error('it fell silent')),
    );
    socket.on('connect', () => {
      this.log.info({ source: this.doc.key, host, port }, 'source connected');
    });
    socket.on('data', (bytes) => this.receive(bytes));
    socket.on('error', (error) => this.complain(`No connection to ${host}:${port}: ${error.message}`));
    socket.on('close', () => {
      this.decoder.reset();
      this.socket = null;
      if (this.stopped) return;
      const wait = retryWait(this.tries++);
      this.log.warn({ source: this.doc.key, wait }, 'source disconnected');
      this.timer = setTimeout(() => this.start(), wait);
    });
  }

  stop(): void {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    this.socket?.destroy();
  }

  /** Looks at how long it has been silent; gives true when its health changed. */
  look(now: number): boolean {
    this.recent = this.recent.filter((t) => t > now - 2000);
    const health = healthOf(this.lastWord, now, this.doc.limits);
    if (health === this.health) return false;
    this.health = health;
    this.log[health === 'live' ? 'info' : 'warn']({ source: this.doc.key, health }, 'source health changed');
    return true;
  }

  /** Notes trouble, as a sentence for the operator. */
  complain(text: string): void {
    this.trouble = { text, at: serverNow() };
  }

  state(): SourceState {
    const { key, name, transport } = this.doc;
    return {
      key,
      name,
      address: `${transport.host}:${transport.port}`,
      health: this.health,
      connected: this.socket !== null && !this.socket.connecting,
      lastWord: this.lastWord,
      rate: Math.round(this.recent.length / 2),
      counts: { ...this.decoder.counts, refused: this.refused },
      trouble: this.trouble,
    };
  }

  private receive(bytes: Uint8Array): void {
    const now = serverNow();
    for (const frame of this.decoder.push(bytes)) {
      this.tries = 0;
      this.lastWord = now;
      this.recent.push(now);
      this.last = { frame, at: now };
      this.onFrame(frame, now);
    }
    const { badChecks } = this.decoder.counts;
    if (badChecks > this.badChecks) this.complain('A frame failed its check and was thrown away');
    this.badChecks = badChecks;
  }
}
