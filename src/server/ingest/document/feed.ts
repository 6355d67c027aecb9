import { node, type TreeNode } from '../../../core/tree/node.ts';

/** Entries beyond this many are left out: a crawl shows the newest. */
const MOST = 500;

const child = (n: TreeNode | undefined, name: string) => n?.children.find((c) => c.name === name);
const said = (n: TreeNode | undefined, ...names: string[]) => {
  for (const name of names) {
    const value = child(n, name)?.value;
    if (value !== null && value !== undefined) return String(value);
  }
  return null;
};

/** A moment as ISO 8601 in UTC; what is no date stays as it is written. */
function moment(text: string | null): string | null {
  const time = text === null ? NaN : Date.parse(text);
  return Number.isNaN(time) ? text : new Date(time).toISOString();
}

interface Entry {
  id: string | null;
  title: string | null;
  summary: string | null;
  link: string | null;
  author: string | null;
  published: string | null;
}

/**
 * RSS 2.0, Atom (RFC 4287) and JSON Feed 1.1 as one tree: `feed` with its title and an `entry` for each of the newest
 * 500, texts freed of HTML by `plain`. Null for a document that is no feed.
 */
export function feedOf(root: TreeNode, plain: (html: string) => string): TreeNode | null {
  let title: string | null;
  let entries: Entry[];
  if (root.name === 'rss') {
    const channel = child(root, 'channel');
    title = said(channel, 'title');
    entries = (channel?.children ?? [])
      .filter((c) => c.name === 'item')
      .slice(0, MOST)
      .map((item) => ({
        id: said(item, 'guid', 'link', 'title'),
        title: said(item, 'title'),
        summary: said(item, 'description'),
        link: said(item, 'link'),
        author: said(item, 'author', 'dc:creator'),
        published: moment(said(item, 'pubDate', 'dc:date')),
      }));
  } else if (root.name === 'feed') {
    title = said(root, 'title');
    entries = root.children
      .filter((c) => c.name === 'entry')
      .slice(0, MOST)
      .map((entry) => ({
        id: said(entry, 'id'),
        title: said(entry, 'title'),
        summary: said(entry, 'summary', 'content'),
        link: child(entry, 'link')?.attributes['href'] ?? null,
        author: said(child(entry, 'author'), 'name'),
        published: moment(said(entry, 'published', 'updated')),
      }));
  } else if (said(root, 'version')?.startsWith('https://jsonfeed.org/')) {
    title = said(root, 'title');
    entries = root.children
      .filter((c) => c.name === 'items')
      .slice(0, MOST)
      .map((item) => ({
        id: said(item, 'id', 'url'),
        title: said(item, 'title'),
        summary: said(item, 'summary', 'content_text', 'content_html'),
        link: said(item, 'url'),
        author: said(child(item, 'authors'), 'name'),
        published: moment(said(item, 'date_published')),
      }));
  } else return null;
  const text = (value: string | null) => (value === null ? null : plain(value));
  return node('feed', null, [
    node('title', text(title)),
    ...entries.map((e) =>
      node('entry', null, [
        node('id', e.id),
        node('title', text(e.title)),
        node('summary', text(e.summary)),
        node('link', e.link),
        node('author', text(e.author)),
        node('published', e.published),
      ]),
    ),
  ]);
}
