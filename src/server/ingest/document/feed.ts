import { node, type TreeNode } from '../../../core/tree/node.ts';
import { looselyPlain, plainText } from './html.ts';

/** Entries beyond this many are left out: a crawl shows the newest. */
const MOST = 500;
const ATOM = 'http://www.w3.org/2005/Atom';

const child = (n: TreeNode | undefined, name: string) => n?.children.find((c) => c.name === name);
const wordOf = (n: TreeNode | undefined) => (n?.value === null || n === undefined ? null : String(n.value));
const said = (n: TreeNode | undefined, ...names: string[]) => {
  for (const name of names) {
    const value = wordOf(child(n, name));
    if (value !== null) return value;
  }
  return null;
};

/** A moment as ISO 8601 in UTC; what is no date stays as it is written. */
function moment(text: string | null): string | null {
  const time = text === null ? NaN : Date.parse(text);
  return Number.isNaN(time) ? text : new Date(time).toISOString();
}

const loosely = (text: string | null) => (text === null ? null : looselyPlain(text));

interface Entry {
  id: string | null;
  title: string | null;
  summary: string | null;
  link: string | null;
  author: string | null;
  published: string | null;
  /** What the entry has beside these, of other vocabularies. */
  more: TreeNode[];
}

const feed = (title: string | null, entries: Entry[]) =>
  node('feed', null, [
    node('title', title),
    ...entries.map((e) =>
      node('entry', null, [
        node('id', e.id),
        node('title', e.title),
        node('summary', e.summary),
        node('link', e.link),
        node('author', e.author),
        node('published', e.published),
        ...e.more,
      ]),
    ),
  ]);

/** Elements of other vocabularies, such as `media:thumbnail`, as they stand. */
const foreign = (n: TreeNode) => n.children.filter((c) => c.name.includes(':'));

function rss(root: TreeNode): TreeNode {
  const channel = child(root, 'channel');
  const items = (channel?.children ?? []).filter((c) => c.name === 'item').slice(0, MOST);
  return feed(
    loosely(said(channel, 'title')),
    items.map((item) => ({
      id: said(item, 'guid', 'link', 'title'),
      title: loosely(said(item, 'title')),
      summary: loosely(said(item, 'description')),
      link: said(item, 'link'),
      author: loosely(said(item, 'author', 'dc:creator')),
      published: moment(said(item, 'pubDate', 'dc:date')),
      more: foreign(item),
    })),
  );
}

/** A text of Atom (RFC 4287, 3.1): plain, escaped HTML, or XHTML, which is read as one text. */
function atomText(n: TreeNode | undefined): string | null {
  const word = wordOf(n);
  return word === null ? null : n!.attributes['type'] === 'html' ? plainText(word) : word;
}

function atom(root: TreeNode, prefix: string): TreeNode {
  const name = (local: string) => prefix + local;
  const entries = root.children.filter((c) => c.name === name('entry')).slice(0, MOST);
  return feed(
    atomText(child(root, name('title'))),
    entries.map((entry) => {
      const links = entry.children.filter((c) => c.name === name('link'));
      const link = links.find((l) => (l.attributes['rel'] ?? 'alternate') === 'alternate') ?? links[0];
      return {
        id: said(entry, name('id')),
        title: atomText(child(entry, name('title'))),
        summary: atomText(child(entry, name('summary')) ?? child(entry, name('content'))),
        link: link?.attributes['href'] ?? null,
        author: said(child(entry, name('author')), name('name')),
        published: moment(said(entry, name('published'), name('updated'))),
        more: foreign(entry).filter((c) => prefix === '' || !c.name.startsWith(prefix)),
      };
    }),
  );
}

function jsonFeed(root: TreeNode): TreeNode {
  const items = root.children.filter((c) => c.name === 'items').slice(0, MOST);
  return feed(
    said(root, 'title'),
    items.map((item) => {
      const html = said(item, 'content_html');
      return {
        id: said(item, 'id', 'url'),
        title: said(item, 'title'),
        summary: said(item, 'summary', 'content_text') ?? (html === null ? null : plainText(html)),
        link: said(item, 'url'),
        author: said(child(item, 'authors') ?? child(item, 'author'), 'name'),
        published: moment(said(item, 'date_published')),
        more: item.children.filter((c) => c.name.startsWith('_')),
      };
    }),
  );
}

/**
 * RSS 2.0, Atom (RFC 4287) and JSON Feed 1.1 as one tree: `feed` with its title and an `entry` for each of the newest
 * 500, texts freed of HTML. Null for a document that is no feed.
 */
export function feedOf(root: TreeNode): TreeNode | null {
  if (root.name === 'rss') return rss(root);
  const prefix = /^(\w[\w.-]*:)?feed$/.exec(root.name) ? root.name.slice(0, -'feed'.length) : null;
  if (prefix !== null) {
    const space = root.attributes[prefix === '' ? 'xmlns' : `xmlns:${prefix.slice(0, -1)}`];
    return space === ATOM ? atom(root, prefix) : null;
  }
  return said(root, 'version')?.startsWith('https://jsonfeed.org/') ? jsonFeed(root) : null;
}
