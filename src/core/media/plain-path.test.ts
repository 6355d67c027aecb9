import { expect, it } from 'vitest';
import { fileNameOf, plainPath } from './plain-path.ts';

it.each([
  ['Head Shots/Herons/07.PNG', 'head-shots/herons/07'],
  ['head-shots/herons/07', 'head-shots/herons/07'],
  ['Ärger & Söhne/Nº 7.jpeg', 'arger-sohne/no-7'],
  ['//a///b.webp/', 'a/b-webp'],
  ['../../etc/passwd', 'etc/passwd'],
  ['.png', ''],
  ['a.png.svg', 'a-png'],
])('%s is %s', (path, plain) => {
  expect(plainPath(path)).toBe(plain);
  expect(plainPath(plain)).toBe(plain);
});

it.each([
  ['headshots/herons/07.png', '07.png'],
  ['07.png', '07.png'],
  ['a/', ''],
])('the name of %s is %s', (path, name) => expect(fileNameOf(path)).toBe(name));
