import ipaddr from 'ipaddr.js';

/** What ranges of addresses a feed may come from, as the registries of IPv4 and IPv6 name them. */
const PRIVATE = new Set(['private', 'uniqueLocal', 'carrierGradeNat']);
const PUBLIC = new Set(['unicast']);

/**
 * Which hosts feeds may be fetched from: any of `loopback`, `private`, `public`. All three by default: statistics run
 * on this machine or on the venue's own network, news comes from outside, and only whoever sits at this machine can
 * name an address. Link-local and multicast addresses are never reached.
 */
export type HostPolicy = ReadonlySet<string>;

const KINDS = ['loopback', 'private', 'public'];

/** Reads FOOTHILL_FEED_HOSTS, such as `loopback,private`. Throws with a sentence when it makes no sense. */
export function readHostPolicy(text: string | undefined): HostPolicy {
  if (text === undefined || text.trim() === '') return new Set(KINDS);
  const kinds = text.split(',').map((k) => k.trim());
  const odd = kinds.find((k) => !KINDS.includes(k));
  if (odd !== undefined)
    throw new Error(`FOOTHILL_FEED_HOSTS has "${odd}"; it is a list of ${KINDS.join(', ')}.`);
  return new Set(kinds);
}

type Address = ReturnType<typeof ipaddr.process>;

/** The address that is reached in truth: an IPv4 address within a mapped, translated, 6to4 or compatible IPv6 one. */
function reached(address: Address): Address {
  if (address.kind() === 'ipv4') return address;
  const parts = (address as InstanceType<typeof ipaddr.IPv6>).parts;
  const inside = (high: number, low: number) => new ipaddr.IPv4([high >> 8, high & 255, low >> 8, low & 255]);
  const zeros = (from: number, to: number) => parts.slice(from, to).every((p) => p === 0);
  const [a, b] = [parts[6]!, parts[7]!];
  // ::ffff:a.b.c.d (RFC 4291), ::ffff:0:a.b.c.d (RFC 2765), ::a.b.c.d (RFC 4291, long given up).
  if (zeros(0, 5) && parts[5] === 0xffff) return inside(a, b);
  if (zeros(0, 4) && parts[4] === 0xffff && parts[5] === 0) return inside(a, b);
  if (zeros(0, 6) && (a !== 0 || b > 1)) return inside(a, b);
  // 64:ff9b::a.b.c.d (RFC 6052) and its local use (RFC 8215), 2002:a.b.c.d:: (RFC 3056).
  if (parts[0] === 0x64 && parts[1] === 0xff9b) return inside(a, b);
  if (parts[0] === 0x2002) return inside(parts[1]!, parts[2]!);
  return address;
}

/** Why an address may not be reached under the policy; null where it may. */
export function refuseAddress(address: string, policy: HostPolicy): string | null {
  const bare = address.replace(/%.*$/, '');
  const range = ipaddr.isValid(bare) ? reached(ipaddr.parse(bare)).range() : 'none';
  const kind =
    range === 'loopback' ? 'loopback' : PRIVATE.has(range) ? 'private' : PUBLIC.has(range) ? 'public' : null;
  // Link-local (where clouds keep secrets), multicast, reserved: nothing that a feed could live at.
  if (kind === null) return `${address} is no address that a feed may come from`;
  return policy.has(kind)
    ? null
    : `${address} is a ${kind} address, and FOOTHILL_FEED_HOSTS allows ${[...policy].join(' and ')} only`;
}
