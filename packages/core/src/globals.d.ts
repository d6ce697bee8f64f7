// The Encoding standard's decoder: in browsers, workers and Node alike, though in none of TypeScript's plain ES libraries.
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(input?: Uint8Array, options?: { stream?: boolean }): string;
}
