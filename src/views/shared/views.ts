/** The views, in the order in which they stand at the top. */
export const VIEWS = [
  { href: '/live', name: 'Live' },
  { href: '/rundown', name: 'Rundown' },
  { href: '/preflight', name: 'Preflight' },
  { href: '/game', name: 'Game' },
  { href: '/sources', name: 'Sources' },
  { href: '/patch', name: 'Patch' },
  { href: '/templates', name: 'Templates' },
  { href: '/data', name: 'Data' },
  { href: '/media', name: 'Media' },
  { href: '/outputs', name: 'Outputs' },
  { href: '/tapes', name: 'Tapes' },
];
