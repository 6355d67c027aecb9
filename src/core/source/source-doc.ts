import { byWord, One } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Form, Is, Key, Maybe, Must, Name, OneOf, OrNull, Whole, YesNo } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';

const Host = () => Form(/^[\w.:-]+$/, 'is not an address', 255);
const Port = () => Whole(1, 65535);

/** `connect` goes to the device, `listen` waits for it to come. */
class Tcp {
  @Is('tcp') kind!: 'tcp';
  @OneOf('connect', 'listen') mode: 'connect' | 'listen' = 'connect';
  @Host() host!: string;
  @Port() port!: number;
}

/** Datagrams that arrive at an address of ours. */
class Udp {
  @Is('udp') kind!: 'udp';
  @Host() host!: string;
  @Port() port!: number;
}

class Serial {
  @Is('serial') kind!: 'serial';
  @Form(/^\/\S+$/, 'a port is a path such as /dev/ttyUSB0', 255) path!: string;
  @Whole(50, 4_000_000) baud!: number;
  @OneOf(7, 8) dataBits: 7 | 8 = 8;
  @OneOf('none', 'even', 'odd') parity: 'none' | 'even' | 'odd' = 'none';
  @OneOf(1, 2) stopBits: 1 | 2 = 1;
}

/** What is asked for whole documents: a `limit` in bytes. */
class Asked {
  @Whole(1000, 100_000_000) limit = 20_000_000;
}

/** A file that another program rewrites, looked at `every` so many ms. */
class File extends Asked {
  @Is('file') kind!: 'file';
  @Form(/^\/./, 'a file is a path such as /data/stats.xml', 1024) path!: string;
  @Whole(100, 3_600_000) every = 500;
}

class Header {
  @Form(/^[A-Za-z0-9-]{1,80}$/, 'is not the name of a header') name!: string;
  @Form(/^[\x20-\x7e]*$/, 'has signs that no header can') value = '';
  /** There is a value, which stays at the server (`withoutSecret`). */
  @Maybe() @YesNo() kept?: boolean;
}

/** An address that is asked `every` so many ms, given up after `timeout`. */
class Http extends Asked {
  @Is('http') kind!: 'http';
  @Must('url', (v) => typeof v === 'string' && v.length <= 2000 && URL.canParse(v), 'is not an address')
  @Form(/^https?:/i, 'an address begins with http: or https:')
  url!: string;
  @Whole(250, 3_600_000) every = 5000;
  @Whole(100, 60_000) timeout = 5000;
  @OrNull() @One(() => Header) header: Header | null = null;
}

/** The operator's own hand: a pad that stands in for a controller. */
class Hand {
  @Is('hand') kind!: 'hand';
}

export type ByteTransport = Tcp | Udp | Serial;
export type DocumentTransport = File | Http;
export type Transport = ByteTransport | DocumentTransport | Hand;

/** Reads where a source is reached. */
export const TRANSPORT = byWord<Transport>('kind', {
  tcp: Tcp,
  udp: Udp,
  serial: Serial,
  file: File,
  http: Http,
  hand: Hand,
});

/** Silence in ms after which it is late, and lost, and what silence is judged by (`SilenceBy`; none said: by time). */
class Limits {
  @Whole(100, 600_000) late!: number;
  @Whole(100, 600_000) lost!: number;
  @Maybe() @OneOf('time', 'beat', 'none') by?: 'time' | 'beat' | 'none';
}

/** One connected input: where it is reached, which frame map reads it, how long it may be silent. */
export class SourceDoc {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  @YesNo() enabled = true;
  @One(() => TRANSPORT) transport!: Transport;
  /** The map that reads its bytes; none while they are still unknown. */
  @OrNull() @Key() frameMap: string | null = null;
  /** How it takes its fields back after it was silent and another source stood in. */
  @OneOf('at-once', 'stoppage', 'by-hand') back: 'at-once' | 'stoppage' | 'by-hand' = 'stoppage';
  @One(() => Limits) limits!: Limits;
}

/** Reads a source document; refuses one that would be lost before it is late. */
export function parseSource(input: unknown): Parsed<SourceDoc> {
  return readDocument(SourceDoc, [], input, (s) =>
    s.limits.lost > s.limits.late ? [] : ['limits: a source is lost later than it is late'],
  );
}
