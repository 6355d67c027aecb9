import { Refusal } from '../../core/show/show.ts';
import type { SourceBundle } from '../../core/source/source.ts';

interface Kept {
  /** The host that the value was given for: it goes nowhere else. */
  origin: string;
  name: string;
  value: string;
}

/** The values of feeds' headers, which never leave the server. Those of deleted sources are kept for an undo. */
export class Secrets {
  private readonly kept = new Map<string, Kept>();

  /** Remembers a source's value as it is saved. */
  note({ source: { key, transport } }: SourceBundle): void {
    if (transport.kind !== 'http' || !transport.header?.value) return;
    const { name, value } = transport.header;
    this.kept.set(key, { origin: new URL(transport.url).origin, name, value });
  }

  /**
   * The bundle with the value that it says is kept. Throws a Refusal where there is none, or where it was given for
   * another host or header: it must be typed anew then.
   */
  fill(bundle: SourceBundle): SourceBundle {
    const { source } = bundle;
    const { transport } = source;
    if (transport.kind !== 'http' || !transport.header?.kept) return bundle;
    const { header } = transport;
    const name = header.name;
    const known = this.kept.get(source.key);
    const value = header.value || known?.value;
    if (value === undefined) throw new Refusal(`The value of the header ${name} is not known here; type it.`);
    if (!header.value && (known!.origin !== new URL(transport.url).origin || known!.name !== name))
      throw new Refusal(
        `The value of the header was given for ${known!.name} at ${known!.origin}; type it anew for another.`,
      );
    return { ...bundle, source: { ...source, transport: { ...transport, header: { name, value } } } };
  }
}
