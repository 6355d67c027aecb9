import { useEffect, useState } from 'react';
import { FrameDecoder, type DecoderCounts } from '../../core/decode/decoder.ts';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import type { BytesOp } from '../../core/wire/wire.ts';
import { openLink } from '../../stage/link.ts';

/** How many of a source's newest bytes the page keeps to look at. */
const KEPT = 8192;

const bytesOf = (hex: string) => Uint8Array.from(hex.match(/../g) ?? [], (h) => parseInt(h, 16));

/** What a source says, as it says it, read in the page by the map that is being made. */
export interface Heard {
  bytes: Uint8Array;
  /** The newest frame by the map, and the one before it. */
  frame: Uint8Array | null;
  counts: DecoderCounts;
  /** For each byte of the frame, when it last changed (ms of the page's own time). */
  changedAt: number[];
}

const NOTHING: Heard = {
  bytes: new Uint8Array(),
  frame: null,
  counts: { good: 0, badChecks: 0, skipped: 0 },
  changedAt: [],
};

/** Follows a source's bytes and reads them by `map`, from anew whenever the map changes how frames are cut. */
export function useHeard(
  source: string | null,
  map: FrameMap | null,
  onFrame: (frame: Uint8Array) => void,
): Heard {
  const [heard, setHeard] = useState(NOTHING);
  const [tell] = useState(() => ({ onFrame }));
  useEffect(() => {
    tell.onFrame = onFrame;
  });
  const cut = JSON.stringify(map && { framing: map.framing, check: map.check });
  useEffect(() => {
    setHeard(NOTHING);
    if (!source) return;
    // How frames are cut is all that matters here; readings are taken out of them where they are shown.
    const by =
      cut === 'null'
        ? null
        : ({ schema: 1, key: 'draft', name: 'draft', readings: [], ...JSON.parse(cut) } as FrameMap);
    const decoder = by && new FrameDecoder(by);
    let kept = new Uint8Array();
    let frame: Uint8Array | null = null;
    let changedAt: number[] = [];
    const take = (bytes: Uint8Array, live: boolean) => {
      const joined = new Uint8Array(kept.length + bytes.length);
      joined.set(kept);
      joined.set(bytes, kept.length);
      kept = joined.slice(-KEPT);
      for (const next of decoder?.push(bytes) ?? []) {
        const now = performance.now();
        const before = frame;
        changedAt = [...next.bytes].map((b, i) =>
          before?.length === next.bytes.length && before[i] !== b ? now : (changedAt[i] ?? 0),
        );
        frame = next.bytes;
        if (live) tell.onFrame(frame);
      }
      setHeard({ bytes: kept, frame, counts: { ...(decoder?.counts ?? NOTHING.counts) }, changedAt });
    };
    const link = openLink<BytesOp, BytesOp>(`bytes:${source}`, {
      onSnapshot: ({ hex }) => {
        kept = new Uint8Array();
        take(bytesOf(hex), false);
      },
      onOps: (ops) => ops.forEach(({ hex }) => take(bytesOf(hex), true)),
      onHere: () => {},
    });
    return () => link.close();
  }, [source, cut, tell]);
  return heard;
}
