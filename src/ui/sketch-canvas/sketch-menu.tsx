'use client';
import { useRef } from 'react';
import { importCurves, toCurve, type DrawnShape } from '@/core/drawing';
import { writeSketchDxf, writeSketchSvg } from '@/core/interchange';
import { LARGEST_DXF } from '@/formats/limits';
import { readDrawing } from '@/workers/file-reader';
import { Menu } from '../design/menu';
import { useSession, useWorkspace, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import type { WorkspaceState } from '../state/workspace';
import { beginStep } from '../steps/add-step';

interface SketchMenuProps {
  readonly sketch: string;
  readonly name: string;
  readonly shape: DrawnShape;
  readonly onWord: (word: string) => void;
}

/** What else is done with a sketch: other steps from it, what its dimensions show, and drawings in and out. */
export function SketchMenu({ sketch, name, shape, onWord }: SketchMenuProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const mode = useWorkspace((state) => state.dimensionText);
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
  const importDxf = (infer: boolean): void => {
    infers.current = infer;
    input.current?.click();
  };
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
      <Menu align="end" button={{ children: '…', className: 'h-7 rounded-box px-2 hover:bg-flax-deep', 'aria-label': 'More of the sketch' }}>
        {({ Item, Separator, RadioGroup, RadioItem, ItemIndicator }) => (
          <>
            <Item className={ITEM} onSelect={() => beginStep(session, workspace, 'revolve', sketch)}>
              Revolve
            </Item>
            <Item className={ITEM} onSelect={() => beginStep(session, workspace, 'hole', sketch)}>
              Hole at its points
            </Item>
            <Separator className="my-1 border-t border-rule" />
            <RadioGroup value={mode} onValueChange={(text) => workspace.setState({ dimensionText: text as typeof mode })}>
              {Object.entries(DIMENSION_TEXTS).map(([text, words]) => (
                <RadioItem key={text} value={text} className={`relative ${ITEM}`}>
                  <ItemIndicator className="absolute left-2.5">✓</ItemIndicator>
                  {words}
                </RadioItem>
              ))}
            </RadioGroup>
            <Separator className="my-1 border-t border-rule" />
            <Item className={ITEM} onSelect={() => download(`${name}.dxf`, 'image/vnd.dxf', writeSketchDxf(curves()))}>
              Save as DXF, millimetres
            </Item>
            <Item className={ITEM} onSelect={() => download(`${name}.svg`, 'image/svg+xml', writeSketchSvg(name, curves()))}>
              Save as SVG, true to size
            </Item>
            <Item className={ITEM} onSelect={() => importDxf(false)}>
              Import a DXF drawing
            </Item>
            <Item className={ITEM} onSelect={() => importDxf(true)}>
              Import a DXF drawing and infer its constraints
            </Item>
          </>
        )}
      </Menu>
    </>
  );
}

const ITEM = 'cursor-default py-1 pr-3 pl-7 outline-none data-[highlighted]:bg-indigo-wash';

const DIMENSION_TEXTS: Readonly<Record<WorkspaceState['dimensionText'], string>> = {
  value: 'Show values',
  name: 'Show names',
  formula: 'Show formulas',
};

function download(file: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = file;
  link.click();
  URL.revokeObjectURL(url);
}
