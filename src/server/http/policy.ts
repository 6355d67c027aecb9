/**
 * What a page of ours may load and who may frame it (Content Security Policy, level 3): everything from this server,
 * and no script that stands in the page itself. `astro.config.ts` adds the hashes of the few that start its islands.
 */
export const DIRECTIVES = [
  "default-src 'self'",
  "img-src 'self' data: blob:",
  "media-src 'self' blob:",
  "worker-src 'self' blob:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
  "frame-ancestors 'self'",
] as const;

/** What every answer says, pages and all else alike; an answer with a stricter policy of its own keeps it. */
export const HEADERS = {
  'content-security-policy': [...DIRECTIVES, "script-src 'self'", "style-src 'self' 'unsafe-inline'"].join(
    '; ',
  ),
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
} as const;

/** Those that mean nothing to a style sheet, a font or a script that a page of ours asks for. */
export const FOR_DOCUMENTS: readonly (keyof typeof HEADERS)[] = [
  'content-security-policy',
  'referrer-policy',
  'cross-origin-opener-policy',
];
