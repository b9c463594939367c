/**
 * Every request passes here first. Only a loopback name in Host is served, so that a foreign page cannot
 * reach the server by a name of its own (DNS rebinding); what changes something must come from a page of
 * this server.
 */
import { NextResponse, type NextRequest } from 'next/server';
import { contentPolicy } from '@/server/http/content-policy';
import { isAllowedRequest } from '@/server/http/origin';

export function proxy(request: NextRequest): NextResponse {
  if (!isReadable(request.nextUrl.pathname)) {
    return NextResponse.json({ error: { code: 'bad-request', message: 'The address is not understood.' } }, { status: 400 });
  }
  const verdict = isAllowedRequest({
    method: request.method,
    host: request.headers.get('host'),
    origin: request.headers.get('origin'),
    fetchSite: request.headers.get('sec-fetch-site'),
  });
  if (verdict) return request.nextUrl.pathname.startsWith('/api/') ? NextResponse.next() : page(request);
  return NextResponse.json({ error: { code: 'forbidden', message: 'This server answers only its own pages on this machine.' } }, { status: 403 });
}

/** Whether an address is text: `%ff` is none. */
function isReadable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

/** A page with the policy for what it may load; the nonce goes to the page in a header of the request. */
function page(request: NextRequest): NextResponse {
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const policy = contentPolicy(nonce, process.env.NODE_ENV === 'development');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

export const config = { matcher: ['/((?!_next/static|_next/image|icon.svg|kernel/|chunks/).*)'] };
