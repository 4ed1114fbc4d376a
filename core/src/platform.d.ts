// The few globals that Node, browsers and workers share and the core uses.
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes: Uint8Array): string;
}
declare const performance: { now(): number };
declare function structuredClone<T>(value: T): T;
declare function btoa(binary: string): string;
declare function atob(text: string): string;
