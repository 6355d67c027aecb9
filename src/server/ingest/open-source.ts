import { deliveryOf, type DocumentTransport, type SourceBundle } from '../../core/source/source.ts';
import { ByteSource } from './byte-source.ts';
import { DocumentSource, type Fetcher } from './document/document-source.ts';
import { fileFetcher } from './document/file.ts';
import type { HostPolicy } from './document/hosts.ts';
import { httpFetcher } from './document/http.ts';
import type { DocumentReader } from './document/reader.ts';
import type { Ears } from './ears.ts';
import { HandSource } from './hand-source.ts';

/** A running source of any kind. */
export type AnySource = ByteSource | DocumentSource | HandSource;

/** Makes the source that a bundle describes; nothing is opened before it is started. */
export function openSource(
  bundle: SourceBundle,
  ears: Ears,
  hosts: HostPolicy,
  reader: DocumentReader,
): AnySource {
  const { source: doc, document } = bundle;
  switch (deliveryOf(doc.transport)) {
    case 'hand':
      return new HandSource(doc);
    case 'bytes':
      return new ByteSource(bundle, ears);
    case 'documents':
      return new DocumentSource(
        doc,
        document,
        fetcherOf(doc.transport as DocumentTransport, hosts),
        reader,
        ears,
      );
  }
}

function fetcherOf(transport: DocumentTransport, hosts: HostPolicy): Fetcher {
  return transport.kind === 'file' ? fileFetcher(transport) : httpFetcher(transport, hosts);
}
