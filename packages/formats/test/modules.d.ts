declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    issues: { numErrors: number; numWarnings: number; messages: { code: string; message: string; severity: number; pointer: string }[] };
    info: { totalTriangleCount: number; totalVertexCount: number };
  }>;
}

declare module 'tinyusdz/tinyusdz.js' {
  interface Reader {
    loadFromBinary(bytes: Uint8Array, name: string): boolean;
    error(): string;
    getMesh(content: number): unknown;
    getDefaultRootNode(): unknown;
  }
  const load: (options: { wasmBinary: Uint8Array }) => Promise<{ TinyUSDZLoaderNative: new () => Reader }>;
  export default load;
}
