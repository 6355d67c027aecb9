import { useRef, useState } from 'react';
import type { Unread } from '../../core/documents/kinds.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { ConfirmButton } from '../../ui/ConfirmButton.tsx';
import type { Desk } from './desk.ts';
import css from './UnreadDialog.module.css';

/** The documents that could not be read: why, and the ways to mend each, or to give it up. */
export function UnreadDialog({
  desk,
  unread,
  onClose,
}: {
  desk: Desk;
  unread: Unread[];
  onClose: () => void;
}) {
  return (
    <Dialog
      title="Documents that cannot be read"
      onClose={onClose}
      actions={<Button onClick={onClose}>Close</Button>}
      wide
    >
      <p>
        They are left out of the show and kept as they are. Export one, mend it in a text editor, then import
        it.
      </p>
      <ul className={css['list']}>
        {unread.map((u) => (
          <One key={`${u.kind}/${u.key}`} desk={desk} unread={u} />
        ))}
      </ul>
    </Dialog>
  );
}

const SHOWN = 4;

function One({ desk, unread: { kind, key, word, name, problems } }: { desk: Desk; unread: Unread }) {
  const [refused, setRefused] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const repair = async (body: object | null) => {
    const answer = await desk.act({ kind: 'repair-document', what: kind, key, body });
    setRefused(answer.ok ? null : answer.text);
  };
  const bring = async (chosen: File) => {
    let body: unknown;
    try {
      body = JSON.parse(await chosen.text());
    } catch {
      return setRefused(`${chosen.name} is not JSON.`);
    }
    if (typeof body !== 'object' || body === null) return setRefused(`${chosen.name} is no document.`);
    await repair(body);
  };
  return (
    <li data-unread={`${kind}/${key}`}>
      <p>
        <b>{name}</b> <span>{word}</span>
      </p>
      <ul className={css['problems']}>
        {problems.slice(0, SHOWN).map((text) => (
          <li key={text}>{text}</li>
        ))}
        {problems.length > SHOWN && <li>and {problems.length - SHOWN} more</li>}
      </ul>
      {refused && (
        <p role="status" className={css['refused']}>
          {refused}
        </p>
      )}
      <div className={css['ways']}>
        <a href={`/api/documents/${kind}/${encodeURIComponent(key)}`} download>
          Export
        </a>
        <Button onClick={() => file.current?.click()}>Import the mended file…</Button>
        <ConfirmButton says="It is gone for good." onYes={() => void repair(null)} />
        <input
          ref={file}
          type="file"
          hidden
          accept=".json"
          aria-label={`Mended file for ${name}`}
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            e.target.value = '';
            if (chosen) void bring(chosen);
          }}
        />
      </div>
    </li>
  );
}
