/**
 * The Content-Security-Policy of a page: scripts and styles of this server alone, and inline ones that carry the nonce of the
 * reply. The one thing that is called unsafe is compiling WebAssembly, which the geometry kernel is.
 */
export function contentPolicy(nonce: string, isDevelopment: boolean): string {
  return [
    "default-src 'self'",
    // Hot reload evaluates what it fetches.
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    `style-src 'self' 'nonce-${nonce}'`,
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
