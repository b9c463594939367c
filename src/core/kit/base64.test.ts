import { readBase64 } from './base64';

// RFC 4648 §10.
test.each([
  ['', ''],
  ['Zg==', 'f'],
  ['Zm8=', 'fo'],
  ['Zm9v', 'foo'],
  ['Zm9vYg==', 'foob'],
  ['Zm9vYmE=', 'fooba'],
  ['Zm9vYmFy', 'foobar'],
])('%j is %j', (text, bytes) => {
  expect(Buffer.from(readBase64(text) ?? [0]).toString()).toBe(bytes);
});

test('all bytes come back', () => {
  const bytes = Uint8Array.from({ length: 256 }, (_, i) => i);
  expect(readBase64(Buffer.from(bytes).toString('base64'))).toEqual(bytes);
});

test.each(['Zg', 'Z===', 'Zm 9', 'Zm9_', 'A'])('%j is none', (text) => {
  expect(readBase64(text)).toBeUndefined();
});
