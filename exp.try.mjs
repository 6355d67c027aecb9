import { chromium } from '@playwright/test';
import { chromiumOptions } from './scripts/lib/browser.mjs';
const b = await chromium.launch(chromiumOptions);
const page = await b.newPage({ viewport: { width: 6400, height: 1200 } });
const frames = (s) => page.evaluate(async (ms) => { const f = () => new Promise((d) => requestAnimationFrame(d)); const out = []; let last = await f(); for (const u = last + ms; last < u;) { const n = await f(); out.push(n - last); last = n; } return out; }, s * 1000);
const on = (l) => ((100 * l.filter((m) => m <= 25).length) / l.length).toFixed(1);
const Z = [0, 800, 2200, 4200, 5600]; const W = [800, 1400, 2000, 1400, 800];
const page1 = ({ bg = '', ground = true, pulse = true, opaque = false, slide = false, layer = false }) => `<!doctype html><style>body{margin:0;${bg}}#s{position:relative;width:6400px;height:1200px;overflow:hidden;${opaque ? 'background:#101820' : ''}}
.z{position:absolute;top:0;width:800px;height:1200px;transform-origin:0 0}.g{position:absolute;inset:0;background:#203040;${layer ? 'will-change:transform' : ''}}
.t{position:absolute;left:40px;width:720px;height:180px;color:#fff;font:700 140px sans-serif}
@keyframes p{50%{opacity:.4}} ${pulse ? '.t{animation:p 1.5s infinite ease-in-out}' : ''}
@keyframes s{0%{transform:translate(-100%)}80%,100%{transform:none}} ${slide ? '.g{animation:s .5s infinite}' : ''}
</style><div id=s>${Z.map((x, i) => `<div class=z style="left:${x}px">${ground ? '<div class=g></div>' : ''}${[0, 1, 2].map((k) => `<div class=t style="top:${60 + k * 220}px">Made up ${k}</div>`).join('')}</div>`).join('')}</div>`;
for (const [name, o] of Object.entries({
  bare: { ground: false }, base: {}, opaque: { opaque: true }, slide: { slide: true }, slideOpaque: { slide: true, opaque: true }, slideOnly: { slide: true, pulse: false }, layer: { layer: true },
})) { await page.setContent(page1(o)); await new Promise((d) => setTimeout(d, 800)); const l = await frames(5); console.log(name, on(l), l.length); }
await b.close();
