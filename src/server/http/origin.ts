/** Which requests are served: those to a loopback name, and for changes, from this server's own pages. */
export interface RequestOrigin {
  readonly method: string;
  readonly host: string | null;
  readonly origin: string | null;
  readonly fetchSite: string | null;
}

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;
const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);

export function isAllowedRequest({ method, host, origin, fetchSite }: RequestOrigin): boolean {
  if (host === null || !LOOPBACK.test(host)) return false;
  if (SAFE_METHODS.has(method)) return true;
  if (fetchSite !== null && fetchSite !== 'same-origin' && fetchSite !== 'none') return false;
  // Programs without a browser send no Origin; browsers always do with a change.
  return origin === null || origin === `http://${host}` || origin === `https://${host}`;
}
