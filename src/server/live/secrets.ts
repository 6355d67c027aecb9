import { withoutValues } from '../store/clean-secrets.ts';
import { Refusal } from '../../core/show/show.ts';
import type { SourceBundle, SourceDoc } from '../../core/source/source.ts';

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
  note({ key, transport }: SourceDoc): void {
    if (transport.kind !== 'http' || !transport.header?.value) return;
    const { name, value } = transport.header;
    this.kept.set(key, { origin: new URL(transport.url).origin, name, value });
  }

  /** The bundle with the value that it says is kept, as `fillSource` has it. */
  fill(bundle: SourceBundle): SourceBundle {
    const source = this.fillSource(bundle.source);
    return source === bundle.source ? bundle : { ...bundle, source };
  }

  /**
   * The source with the value that it says is kept. Throws a Refusal where there is none, or where it was given for
   * another host or header: it must be typed anew then.
   */
  fillSource(source: SourceDoc): SourceDoc {
    const { transport } = source;
    if (transport.kind !== 'http' || !transport.header?.kept) return source;
    const { header } = transport;
    const name = header.name;
    const known = this.kept.get(source.key);
    const value = header.value || known?.value;
    if (value === undefined) throw new Refusal(`The value of the header ${name} is not known here; type it.`);
    if (!header.value && (known!.origin !== new URL(transport.url).origin || known!.name !== name))
      throw new Refusal(
        `The value of the header was given for ${known!.name} at ${known!.origin}; type it anew for another.`,
      );
    return { ...source, transport: { ...transport, header: { name, value } } };
  }
}

/** What is written down of an action or of what takes it back: no header's value is in it. */
export const recorded = <T>(what: T): T => withoutValues(what) as T;
