import { Line } from './line.ts';
import { SportGame, SPORTS } from './sports.ts';

const EVERY = 200;

/** The other sports' controllers: each on a line of its own, with a console page for all. */
export class SportsHost {
  private readonly all = SPORTS.map((sport) => ({ game: new SportGame(sport, false), line: new Line() }));
  private readonly timer: NodeJS.Timeout;
  private last = performance.now();

  constructor() {
    this.timer = setInterval(() => this.tick(), EVERY);
  }

  async listen(firstPort: number, host: string): Promise<void> {
    for (const [i, { line }] of this.all.entries()) await line.listen(firstPort + i, host);
  }

  close(): void {
    clearInterval(this.timer);
    for (const { line } of this.all) line.close();
  }

  /** Does what a console page asks: a button, or playing by itself. Gives a sentence when it cannot. */
  command(body: unknown): string | null {
    const { sport, press, auto } = (body ?? {}) as { sport?: string; press?: string; auto?: boolean };
    const found = this.all.find((a) => a.game.sport.key === sport)?.game;
    if (!found) return 'There is no such sport.';
    if (typeof auto === 'boolean') {
      found.auto = auto;
      found.state['running'] = auto;
      return null;
    }
    const problem = found.press(String(press));
    this.send();
    return problem;
  }

  view(): object[] {
    return this.all.map(({ game, line }) => ({
      key: game.sport.key,
      auto: game.auto,
      state: game.state,
      listeners: line.listeners,
    }));
  }

  /** The page with all consoles, or the console of one sport; null where there is no such sport. */
  page(key: string | null, firstPort: number): string | null {
    const shown = SPORTS.filter((s) => key === null || s.key === key);
    if (shown.length === 0) return null;
    const consoles = shown.map(({ key, name, buttons }) => {
      const port = firstPort + SPORTS.findIndex((s) => s.key === key);
      return `<section data-sport="${key}"><h2><a href="/sports/${key}">${name}</a> <small>port ${port}</small></h2><dl class="state"></dl>
<label><input type="checkbox" class="auto"> plays by itself</label>
<div>${buttons.map((b) => `<button>${b.label}</button>`).join('')}</div></section>`;
    });
    return PAGE.replace('<!--consoles-->', consoles.join(''))
      .replace('<main>', key === null ? '<main>' : '<main class="one">')
      .replace('<!--back-->', key === null ? '' : '<p><a href="/sports">All sports</a></p>');
  }

  private tick(): void {
    const now = performance.now();
    for (const { game } of this.all) game.advance(Math.min(1000, now - this.last));
    this.last = now;
    this.send();
  }

  private send(): void {
    for (const { game, line } of this.all) line.send(game.sport.encode(game.state));
  }
}

const PAGE = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Simulated controllers of other sports</title>
<link rel="icon" href="data:,"><style>
body{max-width:1180px;margin:20px auto;padding:0 20px;background:#f3efe8;color:#26201a;font:15px/1.4 sans-serif}
main{display:grid;grid-template-columns:1fr 1fr;gap:14px}section{padding:12px 16px;border-radius:8px;background:#fffdf9}
h1{font-size:24px}h2{margin:0 0 8px;font-size:18px}a{color:#2b5f73}small,dt{color:#70665a;font-weight:400}
dl{display:grid;grid-template-columns:repeat(4,1fr);gap:4px 12px;margin:0 0 10px;font-variant-numeric:tabular-nums}dt{font-size:12px}dd{margin:0;font-weight:600}
button{margin:4px 6px 0 0;padding:6px 12px;font:inherit}
.one{grid-template-columns:1fr}.one section{padding:24px 28px}.one dl{gap:14px 20px}.one dt{font-size:15px}.one dd{font-size:34px;line-height:1.1}.one button{padding:12px 18px;font-size:17px}
</style></head><body><h1>Simulated controllers of other sports</h1><!--back--><main><!--consoles--></main><p id="note" role="status"></p><script>
const post=async b=>{note.textContent=(await(await fetch('/sports',{method:'POST',body:JSON.stringify(b)})).json()).problem??''};
document.querySelectorAll('section').forEach(s=>{const sport=s.dataset.sport;
s.querySelectorAll('button').forEach(b=>b.onclick=()=>post({sport,press:b.textContent}));
s.querySelector('.auto').onchange=e=>post({sport,auto:e.target.checked})});
const say=v=>typeof v==='number'&&v>999?Math.floor(v/60000)+':'+String(Math.floor(v/1000)%60).padStart(2,'0'):v===true?'yes':v===false?'no':v;
setInterval(async()=>{for(const g of await (await fetch('/sports.json')).json()){const s=document.querySelector('[data-sport="'+g.key+'"]');
if(!s)continue;s.querySelector('.state').replaceChildren(...Object.entries(g.state).map(([k,v])=>{const d=document.createElement('div'),t=document.createElement('dt'),w=document.createElement('dd');
t.textContent=k;w.textContent=say(v);d.append(t,w);return d}));s.querySelector('.auto').checked=g.auto}},300);
</script></body></html>`;
