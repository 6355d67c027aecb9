import { createHash } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { NewsFeed } from './news.ts';
import { COLUMNS, Sheet } from './sheet.ts';
import type { Statistics } from './statistics.ts';

/** How a service misbehaves, for as long as it is switched on. */
export type ServiceFault = 'none' | 'half' | 'page' | 'error' | 'circle' | 'slow';
const FAULTS: readonly ServiceFault[] = ['none', 'half', 'page', 'error', 'circle', 'slow'];
const PAGE = '<!doctype html><html><body><h1>Please sign in to the guest network</h1></body></html>';

/** What other programs at a venue serve over HTTP: statistics, news, the sponsor desk's sheet. */
export class Services {
  readonly news = new NewsFeed();
  readonly sheet = new Sheet();
  private fault: ServiceFault = 'none';
  private readonly server: Server;

  constructor(private readonly statistics: Statistics) {
    this.server = createServer((request, response) => void this.answer(request, response));
  }

  listen(port: number, host: string): Promise<void> {
    return new Promise((done, failed) => {
      this.server.once('error', failed);
      this.server.listen(port, host, done);
    });
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const path = new URL(request.url ?? '/', 'http://localhost').pathname;
    if (request.method === 'POST') return this.take(request, response, path);
    const send = (type: string, body: string | Buffer) => this.send(request, response, type, body);
    switch (path) {
      case '/':
        return send('text/html; charset=utf-8', sheetPage(this.sheet.rows, this.fault));
      case '/stats.xml':
        return send('application/xml', this.statistics.xml());
      case '/stats.json':
        return send('application/json', JSON.stringify(this.statistics.json()));
      case '/news.rss':
        return send('application/rss+xml', this.news.rss());
      case '/news.atom':
        return send('application/atom+xml', this.news.atom());
      case '/news.json':
        return send('application/feed+json', JSON.stringify(this.news.json()));
      case '/sheet.csv':
        return send('text/csv; charset=utf-8', this.sheet.csv());
      case '/sheet.xlsx':
        return send(
          'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
          await this.sheet.xlsx(),
        );
      default:
        response.writeHead(404).end('There is no such document.');
    }
  }

  private send(
    request: IncomingMessage,
    response: ServerResponse,
    type: string,
    body: string | Buffer,
  ): void {
    const feed = request.url !== '/';
    if (feed && this.fault === 'error') return void response.writeHead(500).end('Out of order');
    if (feed && this.fault === 'circle')
      return void response.writeHead(302, { location: request.url ?? '/' }).end();
    if (feed && this.fault === 'slow') return;
    if (feed && this.fault === 'page')
      return void response.writeHead(200, { 'content-type': 'text/html' }).end(PAGE);
    const whole = Buffer.from(body);
    const sent = feed && this.fault === 'half' ? whole.subarray(0, whole.length >> 1) : whole;
    const etag = `"${createHash('sha1').update(sent).digest('base64url')}"`;
    if (request.headers['if-none-match'] === etag) return void response.writeHead(304, { etag }).end();
    response.writeHead(200, { 'content-type': type, etag, 'content-length': sent.length }).end(sent);
  }

  private async take(request: IncomingMessage, response: ServerResponse, path: string): Promise<void> {
    const { origin, host } = request.headers;
    if (origin !== undefined && origin !== `http://${host}`)
      return void response.writeHead(403).end('Refused: another site.');
    let text = '';
    for await (const part of request) {
      text += String(part);
      if (text.length > 100_000) return void response.writeHead(413).end('That is too long.');
    }
    let problem: string | null = null;
    try {
      const body = JSON.parse(text) as { rows?: unknown; title?: string; fault?: ServiceFault };
      if (path === '/sheet') problem = this.sheet.set(body.rows);
      else if (path === '/news' && body.title) this.news.publish(body.title);
      else if (path === '/fault' && body.fault && FAULTS.includes(body.fault)) this.fault = body.fault;
      else problem = 'That is not understood.';
    } catch {
      problem = 'That is not JSON.';
    }
    response.writeHead(problem ? 400 : 200, { 'content-type': 'application/json' });
    response.end(JSON.stringify({ problem }));
  }
}

const escape = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** A small page on which the sponsor desk edits its rows, and the services' faults are switched. */
function sheetPage(rows: readonly Record<string, string>[], fault: ServiceFault): string {
  const head = COLUMNS.map((c) => `<th>${c}</th>`).join('');
  const body = rows
    .map(
      (r) =>
        `<tr>${COLUMNS.map((c) => `<td><input name="${c}" value="${escape(r[c] ?? '')}"></td>`).join('')}</tr>`,
    )
    .join('');
  const faults = FAULTS.map((f) => `<option${f === fault ? ' selected' : ''}>${f}</option>`).join('');
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Simulated services</title>
<style>
body{max-width:980px;margin:24px auto;padding:0 20px;background:#f3efe8;color:#26201a;font:16px/1.4 sans-serif}
table{border-collapse:collapse;width:100%}th{text-align:left;font-weight:400;color:#70665a;padding:2px 8px}
td{border-top:1px solid #d8cfc0;padding:2px}input{width:100%;padding:5px 8px;border:0;background:none;font:inherit}
input:focus{background:#fff}button,select{padding:6px 14px;font:inherit}p{color:#70665a}
</style></head><body><h1>Simulated services</h1>
<p>Served here: <a href="/stats.xml">stats.xml</a>, <a href="/stats.json">stats.json</a>, <a href="/news.rss">news.rss</a>,
<a href="/news.atom">news.atom</a>, <a href="/news.json">news.json</a>, <a href="/sheet.csv">sheet.csv</a>, <a href="/sheet.xlsx">sheet.xlsx</a>.</p>
<h2>Sponsor sheet</h2><table><thead><tr>${head}</tr></thead><tbody>${body}</tbody></table>
<p><button id="row">Add a row</button> <button id="save">Save</button> <span id="said" role="status"></span></p>
<h2>News</h2><p><input id="title" placeholder="A headline" style="background:#fff;max-width:520px"> <button id="publish">Publish</button></p>
<h2>Fault of all services</h2><p><select id="fault">${faults}</select></p>
<script>
const post=(path,body)=>fetch(path,{method:'POST',body:JSON.stringify(body)}).then(r=>r.json()).then(r=>said.textContent=r.problem??'Saved.');
const body=document.querySelector('tbody');
row.onclick=()=>{const tr=(body.lastElementChild??body.insertRow()).cloneNode(true);tr.querySelectorAll('input').forEach(i=>i.value='');body.append(tr)};
save.onclick=()=>post('/sheet',{rows:[...body.rows].map(r=>Object.fromEntries([...r.querySelectorAll('input')].map(i=>[i.name,i.value])))});
publish.onclick=()=>post('/news',{title:title.value});fault.onchange=()=>post('/fault',{fault:fault.value});
</script></body></html>`;
}
