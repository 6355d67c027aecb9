import { chromium } from '@playwright/test';
import { readFileSync } from 'node:fs';
const b = await chromium.connectOverCDP('http://127.0.0.1:9333');
const ctx = b.contexts()[0];
const U = 'http://127.0.0.1:5300';
const pages = ctx.pages();
const page = async (name, path, size = { width: 1280, height: 800 }) => {
  for (const p of ctx.pages()) if ((await p.evaluate(() => window.name).catch(() => '')) === name) { await p.setViewportSize(size); if (path) await p.goto(U + path); return p; }
  const p = await ctx.newPage(); await p.setViewportSize(size); await p.goto(U + path); await p.evaluate((n) => (window.name = n), name); return p;
};
const shot = (p, n) => p.screenshot({ path: `/tmp/shots/${n}.png` });
const act = async (body) => (await fetch(U + '/api/actions', { method: 'POST', body: JSON.stringify({ id: crypto.randomUUID(), ...body }) })).json();
const sim = async (cmd) => (await fetch('http://127.0.0.1:5421/do', { method: 'POST', body: JSON.stringify(cmd) })).json();
const sleep = (ms) => new Promise((d) => setTimeout(d, ms));
const code = readFileSync(0, 'utf8');
const AsyncFunction = (async () => {}).constructor;
try { const r = await new AsyncFunction('page', 'shot', 'act', 'sim', 'sleep', 'ctx', 'U', code)(page, shot, act, sim, sleep, ctx, U); if (r !== undefined) console.log(typeof r === 'string' ? r : JSON.stringify(r, null, 1)); } catch (e) { console.log('ERR', e.message.slice(0, 1500)); }
process.exit(0);
