import { useEffect, useState } from 'react';
import { differences } from '../../core/document/merge.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { List } from '../../ui/List.tsx';
import { Switch } from '../../ui/Switch.tsx';
import { counted } from '../../core/text/words.ts';
import type { Desk } from './desk.ts';
import { sittingsOf } from './sessions.ts';
import css from './VersionsDialog.module.css';

type Restored = 'game' | 'profile' | 'derived' | 'source' | 'template' | 'output';

interface Version {
  revision: number;
  at: number;
  who: string;
  text: string;
  /** What stood before anything was saved here. */
  before?: boolean;
}

interface Props {
  desk: Desk;
  kind: Restored;
  documentKey: string;
  /** What people call it. */
  name: string;
  /** What stands now, as its versions are kept. */
  now: object;
  onClose: () => void;
}

async function ask<T>(kind: Restored, key: string, revision?: number): Promise<T | null> {
  const query = revision === undefined ? '' : `?revision=${revision}`;
  try {
    const response = await fetch(`/api/versions/${kind}/${encodeURIComponent(key)}${query}`);
    return response.ok ? ((await response.json()) as T) : null;
  } catch {
    return null;
  }
}

const when = (at: number) =>
  new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'medium' });

/** The versions of a document: who made each, when, and what is different in it; any can be restored. */
export function VersionsDialog({ desk, kind, documentKey, name, now, onClose }: Props) {
  const [versions, setVersions] = useState<Version[] | null>(null);
  const [failed, setFailed] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const [doc, setDoc] = useState<object | null>(null);
  const current = desk.revisionOf(kind, documentKey);
  const [every, setEvery] = useState(false);
  const shown = every ? (versions ?? []).map((v) => ({ ...v, saves: 1 })) : sittingsOf(versions ?? []);
  useEffect(() => {
    let gone = false;
    void ask<{ versions: Version[] }>(kind, documentKey).then((answer) => {
      if (gone) return;
      setFailed(!answer);
      setVersions(answer?.versions ?? []);
      setChosen(answer?.versions.find((v) => v.revision < current)?.revision ?? null);
    });
    return () => {
      gone = true;
    };
  }, [kind, documentKey, current]);
  useEffect(() => {
    let gone = false;
    setDoc(null);
    if (chosen !== null)
      void ask<{ doc: object }>(kind, documentKey, chosen).then((answer) => {
        if (!gone) setDoc(answer?.doc ?? null);
      });
    return () => {
      gone = true;
    };
  }, [kind, documentKey, chosen]);
  const restore = async () => {
    const { ok } = await desk.act({
      kind: 'restore-version',
      what: kind,
      key: documentKey,
      revision: chosen!,
    });
    if (ok) onClose();
  };
  return (
    <Dialog
      title={`Versions of ${name}`}
      onClose={onClose}
      wide
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button main disabled={!doc || chosen === current} onClick={() => void restore()}>
            Restore this version
          </Button>
        </>
      }
    >
      {failed && <p>The versions cannot be read. The server or its database does not answer.</p>}
      {!failed && versions?.length === 0 && <p>It was never changed. Each save makes a version.</p>}
      {kind === 'template' && <Naming desk={desk} now={now} documentKey={documentKey} />}
      {versions && versions.length > shown.length + (every ? -1 : 0) && (
        <Switch on={every} onChange={setEvery}>
          each save, not only what a sitting ended with
        </Switch>
      )}
      {versions && versions.length > 0 && (
        <div className={css['versions']}>
          <List
            label="Versions"
            items={shown}
            idOf={(v) => String(v.revision)}
            nameOf={(v) => `${when(v.at)}, ${v.text}`}
            chosen={new Set(chosen === null ? [] : [String(chosen)])}
            onChoose={(ids) => setChosen(Number([...ids][0]))}
            className={css['list']}
            itemClass={css['item']}
            dataOf={(v) => ({ 'data-revision': String(v.revision) })}
          >
            {(v) => (
              <>
                <b>
                  {v.text}
                  {v.revision === current && <em> (now)</em>}
                </b>
                <span>
                  {v.before ? 'until ' : ''}
                  {when(v.at)}
                  {v.who && `, ${v.who}`}
                  {v.saves > 1 && `, ${counted(v.saves, 'save')}`}
                </span>
              </>
            )}
          </List>
          <Compared version={doc} now={now} isNow={chosen === current} />
        </div>
      )}
    </Dialog>
  );
}

/** Gives what stands now a name, by which it is found again. */
function Naming({ desk, now, documentKey }: Pick<Props, 'desk' | 'now' | 'documentKey'>) {
  const [called, setCalled] = useState('');
  const [said, setSaid] = useState('');
  const name = async () => {
    const revision = desk.revisionOf('template', documentKey);
    const body = now as { key: string };
    const answer = await desk.act({
      kind: 'put-document',
      what: 'template',
      body,
      revision,
      called: called.trim(),
    });
    setSaid(answer.ok ? '' : answer.text);
    if (answer.ok) setCalled('');
  };
  return (
    <form
      className={css['naming']}
      onSubmit={(event) => {
        event.preventDefault();
        if (called.trim()) void name();
      }}
    >
      <input
        value={called}
        maxLength={80}
        aria-label="Name of what stands now"
        placeholder="Name what stands now, for example “for Saturday”"
        onChange={(e) => setCalled(e.target.value)}
      />
      <Button type="submit" disabled={!called.trim()}>
        Name it
      </Button>
      {said && <span role="alert">{said}</span>}
    </form>
  );
}

/** What is different between a version and what stands now. */
function Compared({ version, now, isNow }: { version: object | null; now: object; isNow: boolean }) {
  if (!version) return <p className={css['said']}>Choose a version to compare it with what stands now.</p>;
  const said = differences(version, now);
  return (
    <section className={css['said']} aria-label="Differences">
      <h3>{isNow ? 'This is what stands now' : 'Changed since then'}</h3>
      {said.length === 0 && !isNow && <p>Nothing.</p>}
      <ul>
        {said.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <details>
        <summary>All of this version</summary>
        <pre>{JSON.stringify(version, null, 2)}</pre>
      </details>
    </section>
  );
}
