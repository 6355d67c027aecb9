import type { IncomingMessage, ServerResponse } from 'node:http';
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

  /** The page with all consoles. */
  page(_request: IncomingMessage, response: ServerResponse, firstPort: number): void {
    const consoles = SPORTS.map(
      ({ key, name, buttons }, i) =>
        `<section data-sport="${key}"><h2>${name} <small>port ${firstPort + i}</small></h2><p class="state"></p>
<label><input type="checkbox" class="auto"> plays by itself</label>
<div>${buttons.map((b) => `<button>${b.label}</button>`).join('')}</div></section>`,
    ).join('');
    response
      .writeHead(200, { 'content-type': 'text/html; charset=utf-8' })
      .end(PAGE.replace('<!--consoles-->', consoles));
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
<style>
body{max-width:1180px;margin:20px auto;padding:0 20px;background:#f3efe8;color:#26201a;font:15px/1.4 sans-serif}
main{display:grid;grid-template-columns:1fr 1fr;gap:14px}section{padding:12px 16px;border-radius:8px;background:#fffdf9}
h2{margin:0;font-size:18px}small,.state{color:#70665a;font-weight:400}.state{font-variant-numeric:tabular-nums;min-height:66px}
button{margin:4px 6px 0 0;padding:6px 12px;font:inherit}
</style></head><body><h1>Simulated controllers of other sports</h1><main><!--consoles--></main><script>
const post=b=>fetch('/sports',{method:'POST',body:JSON.stringify(b)});
document.querySelectorAll('section').forEach(s=>{const sport=s.dataset.sport;
s.querySelectorAll('button').forEach(b=>b.onclick=()=>post({sport,press:b.textContent}));
s.querySelector('.auto').onchange=e=>post({sport,auto:e.target.checked})});
const say=v=>typeof v==='number'&&v>999?Math.floor(v/60000)+':'+String(Math.floor(v/1000)%60).padStart(2,'0'):v;
setInterval(async()=>{for(const g of await (await fetch('/sports.json')).json()){const s=document.querySelector('[data-sport="'+g.key+'"]');
s.querySelector('.state').textContent=Object.entries(g.state).map(([k,v])=>k+' '+say(v)).join(' · ');s.querySelector('.auto').checked=g.auto}},300);
</script></body></html>`;
