declare namespace App {
  interface Locals {
    /** The running engine, handed to every page by our HTTP server. */
    engine: import('./server/live/engine.ts').Engine;
  }
}
