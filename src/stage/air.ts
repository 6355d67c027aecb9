import type { AirOp, AirSnapshot, DrawFault } from '../core/wire/wire.ts';
import { openLink } from './link.ts';
import { declareFonts } from './fonts.ts';
import { fontsReady, Stage } from './stage.ts';

/** A fault that comes again and again, maybe by each frame, is told so often, in ms. */
const FAULT_EVERY = 5000;

/**
 * The air page: one output, as it goes out. Options in its address: `key` draws the matte of what is there
 * (white where opaque, black where not), `bg=rrggbb` sets a ground, `scale=fit` fits the window.
 */
async function start(root: HTMLElement): Promise<void> {
  const options = new URLSearchParams(location.search);
  const ground = /^[0-9a-f]{6}$/i.exec(options.get('bg') ?? '')?.[0].toLowerCase();
  if (ground) document.documentElement.style.background = `#${ground}`;
  const as = options.has('key') ? 'key' : (ground ?? 'page');
  if (options.has('key')) {
    document.documentElement.style.background = '#000';
    root.style.filter = 'url(#matte)';
  }
  if (options.get('scale') === 'fit') {
    const fit = () => {
      const scale = Math.min(innerWidth / root.offsetWidth, innerHeight / root.offsetHeight);
      root.style.transformOrigin = '0 0';
      root.style.transform = `scale(${scale})`;
    };
    new ResizeObserver(fit).observe(root);
    addEventListener('resize', fit);
  }
  void declareFonts(JSON.parse(root.dataset['fonts'] ?? '[]') as string[]);
  await fontsReady(JSON.parse(root.dataset['faces'] ?? '[]') as string[]);
  let stage: Stage | null = null;
  let asked = 0;
  /** A layer could not be drawn: the desks are told, and the whole state is asked for, which may be drawn. */
  const onFault = (fault: DrawFault) => {
    if (Date.now() - asked < FAULT_EVERY) return;
    asked = Date.now();
    link.send({ t: 'fault', fault });
    link.send({ t: 'snapshot' });
  };
  const link = openLink<AirSnapshot, AirOp>(
    `air:${root.dataset['output']}`,
    {
      onSnapshot: (snapshot) => {
        void declareFonts(snapshot.fonts, true);
        stage?.show(snapshot);
      },
      onOps: (ops) => {
        for (const op of ops) if (op.op === 'fonts') void declareFonts(op.fonts, true);
        stage?.perform(ops);
      },
      onRehearsal: (rehearsal) => stage?.rehearse(rehearsal?.tape ?? null),
      onHere: (here) => {
        if (here) stage?.resume();
        else stage?.hold();
      },
    },
    as,
  );
  stage = new Stage(root, link.serverNow, link, true, onFault);
}

void start(document.getElementById('stage')!);
