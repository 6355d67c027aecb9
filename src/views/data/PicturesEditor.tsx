import { Suggest } from '../../ui/ComboBox.tsx';
import { useMemo } from 'react';
import { Board } from '../../core/board/board.ts';
import { Derivations } from '../../core/derive/derivations.ts';
import type { Derived, KeyedPictures } from '../../core/derive/derived.ts';
import { isPicture } from '../../core/media/media.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import type { ValueContext } from '../value/context.ts';
import { ValueEditor } from '../value/ValueEditor.tsx';
import shell from '../shared/View.module.css';
import { useKnown } from '../shared/use-desk.ts';
import css from './DataView.module.css';

interface Props {
  pictures: KeyedPictures;
  snapshot: Prepared;
  desk: Desk;
  context: ValueContext;
  onChange: (pictures: Derived) => void;
}

/** Keyed pictures: the path of each row's picture, and for the present game which are there and which are missing. */
export function PicturesEditor({ pictures, snapshot, desk, context, onChange }: Props) {
  const tables = useKnown(desk, 'tables');
  const text = JSON.stringify(pictures);
  const found = useMemo(() => {
    // The same code as on the server, over what this page knows of the board.
    const board = new Board(snapshot.defs);
    board.apply(
      snapshot.defs.map((d) => ({ key: d.key, value: desk.read(d.key), origin: 'desk' })),
      0,
    );
    for (const t of tables) board.tables.put(t, t.origin, 0);
    const all = new Derivations(board, desk.picture);
    const doc = { ...(JSON.parse(text) as KeyedPictures), key: 'pictures.tried' };
    all.put(doc, 0);
    return { rows: [...(board.tables.get(doc.key)?.rows ?? [])], problem: all.problems.get(doc.key) };
  }, [text, snapshot, tables, desk]);
  const missing = found.rows.filter(([, row]) => row['found'] === false);
  const columns = [...new Set(tables.filter((t) => pictures.from.includes(t.key)).flatMap((t) => t.columns))];
  const toggle = (key: string, on: boolean) => {
    const from = on ? [...pictures.from, key] : pictures.from.filter((k) => k !== key);
    if (from.length) onChange({ ...pictures, from });
  };
  return (
    <>
      <section className={shell['panel']} aria-label="Keyed pictures">
        <div className={css['step']}>
          <span>For each row of</span>
          <div>
            {tables
              .filter((t) => t.origin !== 'derived')
              .map((t) => (
                <label key={t.key}>
                  <input
                    type="checkbox"
                    checked={pictures.from.includes(t.key)}
                    onChange={(e) => toggle(t.key, e.target.checked)}
                  />{' '}
                  {t.name}
                </label>
              ))}
          </div>
        </div>
        <div className={css['step']}>
          <span>picture path</span>
          <div>
            <ValueEditor
              value={pictures.path}
              context={{ ...context, columns }}
              label="the path"
              onChange={(path) => onChange({ ...pictures, path })}
            />
          </div>
        </div>
        <div className={css['step']}>
          <span>fallback</span>
          <div>
            <Suggest
              label="Fallback picture"
              value={pictures.fallback}
              placeholder="no picture"
              suggestions={snapshot.media.filter(isPicture).map((m) => ({ value: m.path }))}
              onChange={(fallback) => onChange({ ...pictures, fallback })}
            />
          </div>
        </div>
      </section>
      <section className={shell['panel']} aria-label="Found" tabIndex={0}>
        <h2>
          {found.problem ??
            (missing.length
              ? `${missing.length} of ${found.rows.length} missing`
              : `All ${found.rows.length} pictures are there.`)}
        </h2>
        <table className={css['rows']}>
          <tbody>
            {[...missing, ...found.rows.filter(([, row]) => row['found'] === true)].map(([key, row]) => (
              <tr key={key} data-row={key} data-missing={row['found'] === false}>
                <td>{row['picture'] ? <img src={String(row['picture'])} alt="" height="28" /> : ''}</td>
                <td>{String(row['name'] ?? key)}</td>
                <td>
                  <code>{String(row['path'] ?? '')}</code>
                </td>
                <td>{row['found'] ? 'found' : 'missing'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </>
  );
}
