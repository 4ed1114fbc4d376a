declare module 'gltf-validator' {
  interface Issues {
    numErrors: number;
    numWarnings: number;
    messages: { code: string; message: string }[];
  }
  export function validateBytes(bytes: Uint8Array): Promise<{ issues: Issues }>;
}
