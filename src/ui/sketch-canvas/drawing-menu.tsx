'use client';
import { DropdownMenu } from 'radix-ui';
import { useRef } from 'react';
import { importCurves, toCurve, type DrawnShape } from '@/core/drawing';
import { writeSketchDxf, writeSketchSvg } from '@/core/interchange';
import { LARGEST_DXF } from '@/formats/limits';
import { readDrawing } from '@/workers/file-reader';
import { useSession } from '../state/context';
import { newId } from '../state/identity';

interface DrawingMenuProps {
  readonly sketch: string;
  readonly name: string;
  readonly shape: DrawnShape;
  readonly onWord: (word: string) => void;
}

/** Drawings in and out: DXF and SVG that other programs read, DXF that they wrote. */
export function DrawingMenu({ sketch, name, shape, onWord }: DrawingMenuProps) {
  const session = useSession();
  const input = useRef<HTMLInputElement>(null);
  const infers = useRef(false);
  const curves = () => shape.entities.flatMap((entity) => ('isConstruction' in entity && entity.isConstruction === true ? [] : (toCurve(shape, entity) ?? [])));
  const bringIn = async (file: File): Promise<void> => {
    if (file.size > LARGEST_DXF) {
      onWord('This drawing is too large: at most 20 MB are read.');
      return;
    }
    const read = await readDrawing(await file.text());
    if (!read.ok) {
      onWord(`${file.name}: ${read.failure}`);
      return;
    }
    const edit = importCurves(sketch, read.value.curves, infers.current, newId);
    const failure = session.edit(edit);
    const left = Object.entries(read.value.leftOut).map(([kind, count]) => `${count} ${kind.toLowerCase()}`);
    onWord(
      failure?.message ??
        [
          `${read.value.curves.length} curves${infers.current ? ` with ${edit.constraints.length} constraints` : ''}, ${read.value.unit === undefined ? 'read as millimetres: the file names no unit' : `in ${read.value.unit}`}`,
          ...(left.length > 0 ? [`left out: ${left.join(', ')}`] : []),
        ].join('; '),
    );
  };
  const items = [
    { label: 'Save as DXF, millimetres', run: () => download(`${name}.dxf`, 'image/vnd.dxf', writeSketchDxf(curves())) },
    { label: 'Save as SVG, true to size', run: () => download(`${name}.svg`, 'image/svg+xml', writeSketchSvg(name, curves())) },
  ];
  return (
    <>
      <input
        ref={input}
        type="file"
        accept=".dxf,image/vnd.dxf"
        aria-label="DXF drawing"
        className="hidden"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void bringIn(file);
          event.target.value = '';
        }}
      />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 whitespace-nowrap hover:bg-flax-deep">
          Drawing file <span aria-hidden>…</span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-50 rounded-box border border-rule bg-sheet py-1 shadow-box">
            {items.map(({ label, run }) => (
              <DropdownMenu.Item key={label} className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash" onSelect={run}>
                {label}
              </DropdownMenu.Item>
            ))}
            {[false, true].map((infer) => (
              <DropdownMenu.Item
                key={String(infer)}
                className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash"
                onSelect={() => {
                  infers.current = infer;
                  input.current?.click();
                }}
              >
                {infer ? 'Bring in a DXF drawing and infer its constraints' : 'Bring in a DXF drawing'}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}

function download(file: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = file;
  link.click();
  URL.revokeObjectURL(url);
}
