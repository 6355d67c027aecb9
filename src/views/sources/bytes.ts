import { useEffect, useState } from 'react';
import { FrameDecoder, type DecoderCounts } from '../../core/decode/decoder.ts';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import { Parts } from '../../core/decode/parts.ts';
import type { BytesOp } from '../../core/wire/wire.ts';
import { openLink } from '../../stage/link.ts';

/** How many of a source's newest bytes the page keeps to look at. */
const KEPT = 8192;

const bytesOf = (hex: string) => Uint8Array.from(hex.match(/../g) ?? [], (h) => parseInt(h, 16));

/** The newest frame of one address, or of all where messages have none. */
export interface Message {
  /** Null where messages have no address, or this one none. */
  address: string | null;
  frame: Parts;
  /** For each byte of the frame, when it last changed (ms of the page's own time). */
  changedAt: number[];
  times: number;
}

/** What a source says, as it says it, read in the page by the map that is being made. */
export interface Heard {
  bytes: Uint8Array;
  /** The newest frame by the map. */
  frame: Parts | null;
  counts: DecoderCounts;
  /** The newest frame of each address, in the order in which they were first heard. */
  messages: Message[];
}

/** What was heard is shown so often, in ms: an eye reads no faster, and all readings are drawn anew each time. */
const SHOWN_EVERY = 250;

/** Of more addresses than these the page shows none. */
const MOST_ADDRESSES = 200;

const NOTHING: Heard = {
  bytes: new Uint8Array(),
  frame: null,
  counts: { good: 0, badChecks: 0, skipped: 0 },
  messages: [],
};

/** Follows a source's bytes and reads them by `map`, from anew whenever the map changes how frames are cut. */
export function useHeard(
  source: string | null,
  map: FrameMap | null,
  onFrame: (frame: Parts) => void,
): Heard {
  const [heard, setHeard] = useState(NOTHING);
  const [tell] = useState(() => ({ onFrame }));
  useEffect(() => {
    tell.onFrame = onFrame;
  });
  const cut = JSON.stringify(
    map && { framing: map.framing, check: map.check, fields: map.fields, address: map.address },
  );
  useEffect(() => {
    setHeard(NOTHING);
    if (!source) return;
    // How frames are cut is all that matters here; readings are taken out of them where they are shown.
    const by =
      cut === 'null'
        ? null
        : ({ schema: 1, key: 'draft', name: 'draft', readings: [], ...JSON.parse(cut) } as FrameMap);
    const decoder = by && new FrameDecoder(by, true);
    let kept = new Uint8Array();
    let frame: Parts | null = null;
    let shownAt = -Infinity;
    let soon: number | undefined;
    const show = () => {
      shownAt = performance.now();
      soon = undefined;
      const counts = { ...(decoder?.counts ?? NOTHING.counts) };
      setHeard({ bytes: kept, frame, counts, messages: [...messages.values()] });
    };
    const messages = new Map<string | null, Message>();
    const take = (bytes: Uint8Array, live: boolean) => {
      const joined = new Uint8Array(kept.length + bytes.length);
      joined.set(kept);
      joined.set(bytes, kept.length);
      kept = joined.slice(-KEPT);
      for (const { parts } of decoder?.push(bytes) ?? []) {
        const now = performance.now();
        const { address } = parts;
        const before = messages.get(address);
        const was = before?.frame.bytes;
        const changedAt = [...parts.bytes].map((b, i) =>
          was?.length === parts.bytes.length && was[i] !== b ? now : (before?.changedAt[i] ?? 0),
        );
        if (before || messages.size < MOST_ADDRESSES)
          messages.set(address, { address, frame: parts, changedAt, times: (before?.times ?? 0) + 1 });
        frame = parts;
        if (live) tell.onFrame(parts);
      }
      soon ??= window.setTimeout(show, Math.max(0, shownAt + SHOWN_EVERY - performance.now()));
    };
    const link = openLink<BytesOp, BytesOp>(`bytes:${source}`, {
      onSnapshot: ({ hex }) => {
        kept = new Uint8Array();
        take(bytesOf(hex), false);
      },
      onOps: (ops) => ops.forEach(({ hex }) => take(bytesOf(hex), true)),
      onHere: () => {},
    });
    return () => {
      clearTimeout(soon);
      link.close();
    };
  }, [source, cut, tell]);
  return heard;
}
