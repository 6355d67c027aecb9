import { useState } from 'react';
import type { SourceBundle } from '../../core/source/source.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import type { Desk } from '../shared/desk.ts';
import shell from '../shared/View.module.css';
import { whatGoes } from './draft.ts';
import css from './SourcesView.module.css';

/** A source with its map and patch as a file. */
export function Export({ bundle }: { bundle: SourceBundle }) {
  const { source } = bundle;
  const { transport: t } = source;
  // A header's value is a key to somebody's service: it stays here.
  const open =
    t.kind === 'http' && t.header
      ? { ...bundle, source: { ...source, transport: { ...t, header: { ...t.header, value: '' } } } }
      : bundle;
  const text = encodeURIComponent(JSON.stringify(open, null, 2));
  return (
    <a
      className={css['export']}
      href={`data:application/json;charset=utf-8,${text}`}
      download={`${bundle.source.key}.json`}
    >
      Export
    </a>
  );
}

/** Deleting asks once, and says what depends on it. */
export function Delete({
  desk,
  snapshot,
  bundle,
}: {
  desk: Desk;
  snapshot: DeskSnapshot;
  bundle: SourceBundle;
}) {
  const [sure, setSure] = useState(false);
  if (!sure) return <Button onClick={() => setSure(true)}>Delete…</Button>;
  return (
    <span className={shell['sure']}>
      {whatGoes(bundle, snapshot)}
      <Button onClick={() => void desk.act({ kind: 'remove-source', source: bundle.source.key })}>
        Delete
      </Button>
      <Button onClick={() => setSure(false)}>Keep</Button>
    </span>
  );
}
