/**
 * Every request passes here first. Only a loopback name in Host is served, so that a foreign page cannot
 * reach the server by a name of its own (DNS rebinding); what changes something must come from a page of
 * this server.
 */
import { NextResponse, type NextRequest } from 'next/server';
import { isAllowedRequest } from '@/server/http/origin';

export function proxy(request: NextRequest): NextResponse {
  const verdict = isAllowedRequest({
    method: request.method,
    host: request.headers.get('host'),
    origin: request.headers.get('origin'),
    fetchSite: request.headers.get('sec-fetch-site'),
  });
  if (verdict) return NextResponse.next();
  return NextResponse.json({ error: { code: 'forbidden', message: 'This server answers only its own pages on this machine.' } }, { status: 403 });
}
