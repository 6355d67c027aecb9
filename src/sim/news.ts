import { XMLBuilder } from 'fast-xml-parser';

interface Story {
  id: string;
  title: string;
  summary: string;
  published: string;
}

const STORIES: [string, string][] = [
  ['Snow closes the Cold Pass road', 'Fans from the north are asked to take the valley train.'],
  ['Herons sign a third goalkeeper', 'The club says that one can never have too many.'],
  ['League moves its final to a Sunday', 'The <b>Fellside League</b> heard from 4,000 members &amp; agreed.'],
  ['Foxes open a new practice hall', 'The old one goes to the town’s schools.'],
  ['Granite Shed roof passes inspection', 'It holds twice the snow that has ever fallen.'],
];

/** A news service: the same stories as RSS 2.0, as Atom and as JSON Feed. */
export class NewsFeed {
  private stories: Story[] = STORIES.map(([title, summary], i) => ({
    id: `story-${i + 1}`,
    title,
    summary,
    published: new Date(Date.UTC(2026, 10, 20 + i, 9)).toISOString(),
  })).reverse();

  /** Puts a story on top. */
  publish(title: string, now = new Date()): void {
    this.stories.unshift({
      id: `story-${this.stories.length + 1}`,
      title: title.slice(0, 200),
      summary: '',
      published: now.toISOString(),
    });
  }

  rss(): string {
    const item = this.stories.map((s) => ({
      title: s.title,
      description: s.summary,
      link: `http://news.example/${s.id}`,
      guid: s.id,
      pubDate: new Date(s.published).toUTCString(),
    }));
    return write({
      rss: { '@version': '2.0', channel: { title: 'Fellside News', link: 'http://news.example', item } },
    });
  }

  atom(): string {
    const entry = this.stories.map((s) => ({
      id: `urn:${s.id}`,
      title: s.title,
      summary: { '@type': 'html', '#text': s.summary },
      updated: s.published,
      link: { '@href': `http://news.example/${s.id}` },
      author: { name: 'Fellside News' },
    }));
    return write({
      feed: { '@xmlns': 'http://www.w3.org/2005/Atom', title: 'Fellside News', id: 'urn:fellside', entry },
    });
  }

  json(): object {
    return {
      version: 'https://jsonfeed.org/version/1.1',
      title: 'Fellside News',
      items: this.stories.map((s) => ({
        id: s.id,
        title: s.title,
        content_html: s.summary,
        url: `http://news.example/${s.id}`,
        date_published: s.published,
      })),
    };
  }
}

function write(tree: object): string {
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true });
  return `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(tree)}`;
}
