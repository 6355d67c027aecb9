import { useMemo, useState } from 'react';
import { encode } from 'uqr';
import type { Output } from '../../core/show/show.ts';
import type { OpenPage } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import { copyText } from '../../ui/clipboard.ts';
import shell from '../shared/View.module.css';
import css from './OutputsView.module.css';

/** The ways in which a picture is fetched, each a page of the same output, and what that page says it is. */
const WAYS = [
  ['page', '', 'Transparent page', 'For what shows web pages with transparency'],
  ['000000', '?bg=000000', 'Fill', 'Over black, for a keyer that has the key beside it'],
  ['key', '?key', 'Key', 'White where the picture is, black where not'],
  ['00b140', '?bg=00b140', 'Chroma green', 'For a keyer that takes a colour out'],
  ['0047bb', '?bg=0047bb', 'Chroma blue', 'For graphics that are green themselves'],
] as const;

/** What a page that is open shows, in words. */
const shownAs = (as: string) => WAYS.find(([key]) => key === as)?.[2] ?? `Over #${as}`;

/** How a page does: how late it is, or what is wrong with it. */
const stateOf = ({ state, late }: OpenPage) =>
  state === 'open' ? (late === null ? 'just opened' : `${late} ms late`) : STATES[state];
const STATES = { silent: 'does not answer', behind: 'falls behind', gone: 'gone' };

/** Where the picture of an output is fetched, and who has it now. */
export function Addresses({ output, pages }: { output: Output; pages: readonly OpenPage[] }) {
  const [shown, setShown] = useState<string | null>(null);
  const [copied, setCopied] = useState<string | null>(null);
  const address = (query: string) => `${location.origin}/air/${encodeURIComponent(output.key)}${query}`;
  const local = ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname);
  return (
    <section className={shell['panel']} aria-label="Addresses">
      <b>Addresses</b>
      <ul className={css['ways']}>
        {WAYS.map(([, query, name, use]) => (
          <li key={name}>
            <a href={address(query)} target="_blank" rel="noreferrer" data-tip={use}>
              {name}
            </a>
            <Button
              onClick={() =>
                void copyText(address(query)).then((done) => (done ? setCopied(name) : setShown(name)))
              }
            >
              {copied === name ? 'Copied' : 'Copy'}
            </Button>
            <Button
              aria-pressed={shown === name}
              aria-label={`QR code of ${name}`}
              onClick={() => setShown(shown === name ? null : name)}
            >
              QR
            </Button>
            {shown === name && <Code text={address(query)} />}
          </li>
        ))}
      </ul>
      <b>Open now</b>
      {pages.length === 0 && <p className={shell['dim']}>No page of this output is open.</p>}
      <ul className={css['pages']} aria-label="Pages that are open">
        {pages.map((page) => (
          <li key={page.id} data-state={page.state}>
            <span>
              {shownAs(page.as)} <small>{page.from}</small>
            </span>
            <em>{stateOf(page)}</em>
          </li>
        ))}
      </ul>
      {local && (
        <p className={shell['dim']}>
          Only this machine reaches these. For others start Foothill with FOOTHILL_HOST.
        </p>
      )}
    </section>
  );
}

/** A QR code, black on white with the quiet zone that readers need. */
function Code({ text }: { text: string }) {
  const { data, size } = useMemo(() => encode(text, { border: 4 }), [text]);
  const path = data.flatMap((row, y) => row.flatMap((on, x) => (on ? [`M${x} ${y}h1v1h-1z`] : []))).join('');
  return (
    <figure className={css['code']}>
      <svg
        viewBox={`0 0 ${size} ${size}`}
        role="img"
        aria-label={`QR code: ${text}`}
        shapeRendering="crispEdges"
      >
        <rect width={size} height={size} fill="#fff" />
        <path d={path} fill="#000" />
      </svg>
      <figcaption>{text}</figcaption>
    </figure>
  );
}
