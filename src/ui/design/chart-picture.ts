/** The drawing of a chart as a PNG. */
import { curveInk } from './curve-inks';
import { saveFile } from './save-file';

/** Pixels of the picture for each of the page. */
const SHARPNESS = 2;
/** Height of a line of text, and room beside it, in pixels of the page. */
const LINE = 24;
const MARGIN = 16;

/** The drawing with its colours written out: by itself it knows none of the page's. */
export function standaloneDrawing(drawing: SVGElement, colourOf: (name: string) => string): string {
  const copy = drawing.cloneNode(true) as SVGElement;
  copy.setAttribute('font-family', 'sans-serif');
  return new XMLSerializer().serializeToString(copy).replace(/var\((--[\w-]+)\)/g, (_, name: string) => colourOf(name));
}

/** The drawing under its title, with the names of its curves below. */
export async function saveChartPicture(
  drawing: SVGElement,
  curves: readonly { readonly label: string }[],
  title: string,
  { width, height }: { readonly width: number; readonly height: number } = drawing.getBoundingClientRect(),
): Promise<void> {
  const styles = getComputedStyle(document.documentElement);
  const text = standaloneDrawing(drawing, (name) => styles.getPropertyValue(name).trim());
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`;
  await picture.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * SHARPNESS;
  const named = curves.length > 1 ? curves : [];
  canvas.height = (height + LINE * (1 + named.length)) * SHARPNESS;
  const context = canvas.getContext('2d');
  if (!context) return;
  const ink = (text: string): string => text.replace(/var\((--[\w-]+)\)/, (_, name: string) => styles.getPropertyValue(name).trim());
  context.scale(SHARPNESS, SHARPNESS);
  context.fillStyle = ink('var(--sheet)');
  context.fillRect(0, 0, width, canvas.height);
  context.font = '14px sans-serif';
  context.fillStyle = ink('var(--walnut)');
  context.fillText(title, MARGIN, LINE - 6, width - 2 * MARGIN);
  context.drawImage(picture, 0, LINE, width, height);
  for (const [i, { label }] of named.entries()) {
    const y = height + LINE * (i + 2) - 8;
    context.fillStyle = ink(curveInk(i));
    context.fillRect(MARGIN, y - 5, 20, 2);
    context.fillStyle = ink('var(--walnut)');
    context.fillText(label, MARGIN + 28, y, width - 2 * MARGIN - 28);
  }
  const blob = await new Promise<Blob | null>((resolve) => {
    canvas.toBlob(resolve, 'image/png');
  });
  if (blob) saveFile(new Uint8Array(await blob.arrayBuffer()), `${title}.png`);
}
