import { SerialPort } from 'serialport';

const AGAIN = 1000;

/** The controller's serial port: what its network line says, for whoever has the other end. */
export class SerialLine {
  private port: SerialPort | null = null;
  private timer: NodeJS.Timeout | null = null;
  private busy = false;
  private closed = false;

  constructor(private readonly path: string) {
    this.open();
  }

  /** Sends a frame; one that the port has no room for is lost, as on a real one. */
  send(frame: Uint8Array): void {
    const { port } = this;
    if (!port?.isOpen || this.busy) return;
    this.busy = true;
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
