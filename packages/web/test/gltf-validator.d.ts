declare module "gltf-validator" {
  interface Report {
    readonly issues: { readonly messages: readonly { readonly code: string; readonly message: string }[] };
    readonly info: { readonly totalTriangleCount: number };
  }
  export function validateBytes(data: Uint8Array): Promise<Report>;
  export function validateString(json: string): Promise<Report>;
}
