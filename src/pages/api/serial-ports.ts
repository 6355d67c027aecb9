import type { APIRoute } from 'astro';
import { serialPorts } from '../../server/ingest/serial-ports.ts';

/** The serial ports that are there now. */
export const GET: APIRoute = async () => Response.json({ ports: await serialPorts() });
