'use client';
import { DropdownMenu } from 'radix-ui';
import { toCurve, type DrawnShape } from '@/core/drawing';
import { writeSketchDxf, writeSketchSvg } from '@/core/interchange';

/** Saves the sketch as a drawing that other programs read. */
export function ExportMenu({ name, shape }: { name: string; shape: DrawnShape }) {
  const curves = () => shape.entities.flatMap((entity) => ('isConstruction' in entity && entity.isConstruction === true ? [] : (toCurve(shape, entity) ?? [])));
  const items = [
    { label: 'DXF, millimetres', run: () => download(`${name}.dxf`, 'image/vnd.dxf', writeSketchDxf(curves())) },
    { label: 'SVG, true to size', run: () => download(`${name}.svg`, 'image/svg+xml', writeSketchSvg(name, curves())) },
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 whitespace-nowrap hover:bg-flax-deep">
        Save as <span aria-hidden>…</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-50 rounded-box border border-rule bg-sheet py-1 shadow-box">
          {items.map(({ label, run }) => (
            <DropdownMenu.Item key={label} className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash" onSelect={run}>
              {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
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
