import { isAllowedRequest, type RequestOrigin } from './origin';

const request = (more: Partial<RequestOrigin>): RequestOrigin => ({ method: 'GET', host: '127.0.0.1:4173', origin: null, fetchSite: null, ...more });

test.each<[string, Partial<RequestOrigin>, boolean]>([
  ['a page of this machine', {}, true],
  ['by the name localhost', { host: 'localhost:4173' }, true],
  ['over IPv6', { host: '[::1]:4173' }, true],
  ['under a foreign name that leads here (DNS rebinding)', { host: 'evil.example:4173' }, false],
  ['under a name that only begins like this machine', { host: '127.0.0.1.evil.example' }, false],
  ['without a host', { host: null }, false],
  ['a change from its own page', { method: 'POST', origin: 'http://127.0.0.1:4173', fetchSite: 'same-origin' }, true],
  ['a change from a foreign page', { method: 'POST', origin: 'http://evil.example', fetchSite: 'cross-site' }, false],
  ['a change from another port of this machine', { method: 'POST', origin: 'http://127.0.0.1:8000', fetchSite: 'same-site' }, false],
  ['a change whose origin is hidden', { method: 'PATCH', origin: 'null' }, false],
  ['a change by a program', { method: 'POST' }, true],
  ['reading from a foreign page, which the browser keeps from it', { origin: 'http://evil.example', fetchSite: 'cross-site' }, true],
])('%s', (_, more, allowed) => {
  expect(isAllowedRequest(request(more))).toBe(allowed);
});
