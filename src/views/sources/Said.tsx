import { later } from '../../ui/Later.tsx';
import { LOOKED_AT, MORE } from '../../core/tree/node.ts';
import { useMemo, useState } from 'react';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import { deliveryOf, type SourceBundle, type Transport } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import { Pad } from '../shared/Pad.tsx';
import { useSeconds } from '../shared/time.ts';
import type { Heard } from './bytes.ts';
import { useDocument, useJsonLines } from './document.ts';
import { withDocument } from './draft.ts';
import css from './SourcesView.module.css';

const DocumentPanel = later(() => import('./DocumentPanel.tsx').then((m) => m.DocumentPanel));
const FramePanel = later(() => import('./FramePanel.tsx').then((m) => m.FramePanel));

/** The maps that a source may begin with: those that ship, and those of the other sources. */
function mapsFor(draft: SourceBundle, { maps, bundles }: Prepared): FrameMap[] {
  const known = new Set(maps.map((m) => m.key));
  const others = bundles.flatMap(({ source, map }) =>
    map && source.key !== draft.source.key && !known.has(map.key)
      ? [{ ...map, name: `${map.name} (${source.name})` }]
      : [],
  );
  return [...maps, ...others];
}

interface SaidProps {
  desk: Desk;
  snapshot: Prepared;
  /** The key of what is listened to, and where that is reached. */
  source: string;
  transport: Transport;
  state: SourceState | undefined;
  draft: SourceBundle;
  heard: Heard;
  onChange: (bundle: SourceBundle) => void;
}

/** What a source says: bytes cut into frames or lines, documents, or what is pressed on its pad. */
export function Said(props: SaidProps) {
  const { desk, snapshot, source: key, transport, state, draft, heard, onChange } = props;
  // What is saved is what is connected: a line that is being changed says nothing yet.
  const delivery = deliveryOf(transport);
  const now = useSeconds(desk.link.serverNow);
  const [most, setMost] = useState(LOOKED_AT);
  const maps = useMemo(() => mapsFor(draft, snapshot), [draft, snapshot]);
  const documents = delivery === 'documents' ? key : null;
  const look = useDocument(documents, draft.document, state?.changedAt ?? null, most);
  const lines = useJsonLines(heard.bytes, draft.document, most);
  if (delivery !== deliveryOf(draft.source.transport))
    return <p className={css['next']}>Save to connect it the new way.</p>;
  if (delivery === 'hand') return <Pad desk={desk} source={key} state={state} defs={snapshot.defs} />;
  const isLines = delivery === 'bytes' && draft.document !== null;
  if (delivery === 'documents' || isLines)
    return (
      <DocumentPanel
        bundle={draft}
        looked={isLines ? lines : look.looked}
        look={isLines ? null : look}
        onMore={() => setMost(most + MORE)}
        state={state}
        now={now}
        defs={snapshot.defs}
        bundles={snapshot.bundles}
        onChange={onChange}
      />
    );
  return (
    <>
      {lines && !draft.map && (
        <p className={css['next']}>
          Lines of JSON come in.{' '}
          <Button main onClick={() => onChange(withDocument(draft, {}))}>
            Read them as JSON lines
          </Button>
        </p>
      )}
      <FramePanel bundle={draft} heard={heard} maps={maps} eager={!lines} onChange={onChange} />
    </>
  );
}
