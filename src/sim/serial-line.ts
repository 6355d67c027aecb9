import { SerialPort } from 'serialport';

const AGAIN = 1000;
/** A port that takes longer than this for a frame is gone, whether it says so or not, in ms. */
const STUCK = 2000;

/** The controller's serial port: what its network line says, for whoever has the other end. */
export class SerialLine {
  private port: SerialPort | null = null;
  private timer: NodeJS.Timeout | null = null;
  private busy = false;
  private since = 0;
  private closed = false;

  constructor(private readonly path: string) {
    this.open();
  }

  /** Sends a frame; one that the port has no room for is lost, as on a real one. */
  send(frame: Uint8Array): void {
    const { port } = this;
    if (!port?.isOpen) return;
    if (this.busy) {
      if (Date.now() - this.since > STUCK) port.close();
      return;
    }
    this.busy = true;
    this.since = Date.now();
    port.write(Buffer.from(frame), () => port.drain(() => (this.busy = false)));
  }

  close(): void {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    if (this.port?.isOpen) this.port.close();
  }

  private open(): void {
    const port = new SerialPort({ path: this.path, baudRate: 19_200, autoOpen: false });
    this.port = port;
    const lost = () => {
      this.busy = false;
      if (this.closed || this.port !== port) return;
      this.port = null;
      this.timer = setTimeout(() => this.open(), AGAIN);
    };
    port.on('error', lost);
    port.on('close', lost);
    port.open((error) => error && lost());
  }
}
