import { drawMap } from './map-picture';

test('a map is drawn with its amounts, the second value upwards; what is wrong is hatched and crossed', () => {
  const drawing = drawMap({
    across: ['10 mm', '20 mm', '30 mm'],
    up: ['1 mm', '2 mm'],
    acrossLabel: 'width',
    upLabel: 'wall',
    fieldAt: (i, j) => ({ value: i === 2 ? null : i + j, shown: '', isWrong: i === 1 && j === 1 }),
  });
  const texts = [...drawing.querySelectorAll('text')].map(({ textContent }) => textContent);
  expect(texts.slice(0, 5)).toEqual(['wall up, width across', '10 mm', '20 mm', '30 mm', '1 mm']);
  expect(texts).toContain('✕ 2');
  const row = (words: string): number => Number([...drawing.querySelectorAll('text')].find(({ textContent }) => textContent === words)?.getAttribute('y'));
  expect(row('2 mm')).toBeLessThan(row('1 mm'));
  expect(drawing.querySelectorAll('rect[fill="url(#wrong)"]')).toHaveLength(1);
  expect(drawing.querySelectorAll('rect[fill="var(--indigo)"]')).toHaveLength(6);
});
