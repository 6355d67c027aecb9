declare namespace App {
  interface Locals {
    /** The running engine, handed to every page by our HTTP server. */
    engine: import('./server/live/engine.ts').Engine;
  }
}

/** Its own declarations are not found under its `exports`. */
declare module 'windows-1252' {
  export function decode(bytes: Uint8Array, options?: { mode: 'fatal' | 'replacement' }): string;
}
