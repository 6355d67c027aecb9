import { memo } from 'react';
import { withoutSecret, type SourceBundle } from '../../core/source/source.ts';
import { useLoaded } from '../../ui/loaded.ts';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import type { Desk, Prepared } from '../shared/desk.ts';
import css from './SourcesView.module.css';

/** The bundle as it leaves: another Foothill has no value for its header, and must be given one. */
function exported(bundle: SourceBundle): SourceBundle {
  const { source } = withoutSecret(bundle);
  const { transport: t } = source;
  if (t.kind !== 'http' || !t.header) return bundle;
  const header = { name: t.header.name, value: '' };
  return { ...bundle, source: { ...source, transport: { ...t, header } } };
}

/** A source with its map and patch as a file. */
export const Export = memo(function Export({ bundle }: { bundle: SourceBundle }) {
  const text = encodeURIComponent(JSON.stringify(exported(bundle), null, 2));
  return (
    <a
      className={css['export']}
      href={`data:application/json;charset=utf-8,${text}`}
      download={`${bundle.source.key}.json`}
    >
      Export
    </a>
  );
});

const loadGoes = () => import('./goes.ts');

/** Deleting asks once, and says what depends on it. */
export const Delete = memo(function Delete({
  desk,
  snapshot,
  bundle,
}: {
  desk: Desk;
  snapshot: Prepared;
  bundle: SourceBundle;
}) {
  const goes = useLoaded(loadGoes);
  return (
    <ConfirmButton
      says={goes ? goes.whatGoes(bundle, snapshot) : 'Looking at what depends on it…'}
      ready={goes !== null}
      onYes={() => void desk.act({ kind: 'remove-source', source: bundle.source.key })}
    />
  );
});
