import { standaloneDrawing } from './chart-picture';

test('a drawing by itself has its colours written out, and is a drawing to any reader', () => {
  const drawing = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  drawing.innerHTML = '<path stroke="var(--indigo)" style="fill: var(--walnut-soft)"></path>';
  const text = standaloneDrawing(drawing, (name) => (name === '--indigo' ? '#123456' : '#654321'));
  expect(text).toContain('stroke="#123456"');
  expect(text).toContain('#654321');
  expect(text).not.toContain('var(');
  expect(new DOMParser().parseFromString(text, 'image/svg+xml').documentElement.namespaceURI).toBe('http://www.w3.org/2000/svg');
  // What is on the page stays as it is.
  expect(drawing.innerHTML).toContain('var(--indigo)');
});
