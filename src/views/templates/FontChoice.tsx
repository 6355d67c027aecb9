import { useRef, useState } from 'react';
import { allFamilies } from '../../core/text/families.ts';
import shell from '../shared/View.module.css';
import { bringFont, FONT_FILES } from '../shared/bring.ts';
import type { Desk } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';

/** The choice that is none: it opens the computer's files. */
const IMPORT = '+';

interface Props {
  desk: Desk;
  label: string;
  written: string;
  onSet: (to: string) => void;
}

/** A family of faces: those that were brought in, those that ship, and whatever the layer says; more can be brought in. */
export function FontChoice({ desk, label, written, onSet }: Props) {
  const all = allFamilies(useDesk(desk, (s) => s.desk!.media));
  const known = all.some((f) => f.name === written);
  const box = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState('');
  const bring = async (file: File) => {
    setSaid(`Importing ${file.name}…`);
    const done = await bringFont(desk, file);
    setSaid('problem' in done ? done.problem : '');
    if ('family' in done) onSet(done.family);
  };
  return (
    <>
      <select
        aria-label={label}
        value={written}
        onChange={(e) => (e.target.value === IMPORT ? box.current?.click() : onSet(e.target.value))}
      >
        {!known && <option value={written}>{written ? `${written} · missing` : 'the same'}</option>}
        {all.map((f) => (
          <option key={f.name} value={f.name}>
            {f.name} · {f.style}
          </option>
        ))}
        <option value={IMPORT}>Import a font…</option>
      </select>
      <input
        ref={box}
        type="file"
        hidden
        accept={FONT_FILES}
        aria-label="Font file to import"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void bring(file);
        }}
      />
      {said && (
        <small className={shell['refused']} role="status">
          {said}
        </small>
      )}
    </>
  );
}
