import { BlockList, isIP } from 'node:net';

const LOOPBACK = new BlockList();
LOOPBACK.addSubnet('127.0.0.0', 8);
LOOPBACK.addAddress('::1', 'ipv6');

const PRIVATE = new BlockList();
PRIVATE.addSubnet('10.0.0.0', 8);
PRIVATE.addSubnet('172.16.0.0', 12);
PRIVATE.addSubnet('192.168.0.0', 16);
PRIVATE.addSubnet('100.64.0.0', 10);
PRIVATE.addSubnet('fc00::', 7, 'ipv6');

/** Nothing that a feed could live at: this host, link-local (where clouds keep secrets), multicast, reserved. */
const NEVER = new BlockList();
NEVER.addSubnet('0.0.0.0', 8);
NEVER.addSubnet('169.254.0.0', 16);
NEVER.addSubnet('224.0.0.0', 4);
NEVER.addSubnet('240.0.0.0', 4);
NEVER.addAddress('::', 'ipv6');
NEVER.addSubnet('fe80::', 10, 'ipv6');
NEVER.addSubnet('ff00::', 8, 'ipv6');

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

/** Why an address may not be reached under the policy; null where it may. */
export function refuseAddress(address: string, policy: HostPolicy): string | null {
  // An IPv4 address in an IPv6 coat is the IPv4 address.
  const bare = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1] ?? address;
  const family = isIP(bare) === 6 ? 'ipv6' : 'ipv4';
  if (isIP(bare) === 0 || NEVER.check(bare, family))
    return `${address} is no address that a feed may come from`;
  const kind = LOOPBACK.check(bare, family) ? 'loopback' : PRIVATE.check(bare, family) ? 'private' : 'public';
  return policy.has(kind)
    ? null
    : `${address} is a ${kind} address, and FOOTHILL_FEED_HOSTS allows ${[...policy].join(' and ')} only`;
}
