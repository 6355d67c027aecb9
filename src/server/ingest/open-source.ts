import { deliveryOf, type DocumentTransport, type SourceBundle } from '../../core/source/source.ts';
import { ByteSource } from './byte-source.ts';
import { DocumentSource, type Fetcher } from './document/document-source.ts';
import { fileFetcher } from './document/file.ts';
import type { HostPolicy } from './document/hosts.ts';
import { httpFetcher } from './document/http.ts';
import type { DocumentReader } from './document/reader.ts';
import type { SourceListener } from './source-listener.ts';
import { HandSource } from './hand-source.ts';
import type { openLine } from './transport.ts';
import type { RunningSource } from './running-source.ts';

/** What sources may reach: which hosts feeds come from, which folders files are read from. */
export interface Reach {
  hosts: HostPolicy;
  folders: readonly string[];
  /** How a line of bytes is opened; that of the machine where nothing is said. */
  openLine?: typeof openLine;
}

/** Makes the source that a bundle describes; nothing is opened before it is started. */
export function openSource(
  bundle: SourceBundle,
  listener: SourceListener,
  reach: Reach,
  reader: DocumentReader,
): RunningSource {
  const { source: doc, document } = bundle;
  switch (deliveryOf(doc.transport)) {
    case 'hand':
      return new HandSource(doc);
    case 'bytes':
      return new ByteSource(bundle, listener, reach.openLine);
    case 'documents':
      return new DocumentSource(
        doc,
        document,
        fetcherOf(doc.transport as DocumentTransport, reach),
        reader,
        listener,
      );
  }
}

function fetcherOf(transport: DocumentTransport, { hosts, folders }: Reach): Fetcher {
  return transport.kind === 'file' ? fileFetcher(transport, folders) : httpFetcher(transport, hosts);
}
