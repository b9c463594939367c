'use client';
import { findAny, isEntity, type ConstraintKind } from '@/core/document';
import { LEAST_SIDES, MOST_SIDES, type DrawnShape, type DrawTool } from '@/core/drawing';
import { Button } from '../design/button';
import { Menu } from '../design/menu';
import { MENU } from '../design/menu-items';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { beginStep } from '../steps/add-step';
import type { ChangeTool } from './change-tools';
import { SketchMenu } from './sketch-menu';
import type { DrawOptions, SketchTool } from './sketch-gestures';

interface Entry<T extends SketchTool> {
  readonly tool: T;
  readonly label: string;
  readonly key?: string;
}

const DRAW: readonly Entry<DrawTool>[] = [
  { tool: 'line', label: 'Lines', key: 'L' },
  { tool: 'rectangle', label: 'Rectangle by corners', key: 'R' },
  { tool: 'rectangle-centre', label: 'Rectangle from its centre' },
  { tool: 'circle', label: 'Circle from its centre', key: 'C' },
  { tool: 'circle-2', label: 'Circle on two points' },
  { tool: 'circle-3', label: 'Circle through three points' },
  { tool: 'arc', label: 'Arc from its centre', key: 'A' },
  { tool: 'arc-3', label: 'Arc through three points' },
  { tool: 'arc-tangent', label: 'Arc going on from an end', key: 'T' },
  { tool: 'slot', label: 'Slot', key: 'S' },
  { tool: 'polygon', label: 'Regular polygon', key: 'P' },
  { tool: 'point', label: 'Point' },
];

const CHANGE: readonly Entry<ChangeTool>[] = [
  { tool: 'trim', label: 'Trim', key: 'X' },
  { tool: 'extend', label: 'Extend', key: 'E' },
  { tool: 'split', label: 'Split' },
  { tool: 'fillet', label: 'Fillet a corner', key: 'G' },
  { tool: 'chamfer', label: 'Chamfer a corner' },
  { tool: 'offset', label: 'Offset', key: 'O' },
  { tool: 'mirror', label: 'Mirror', key: 'M' },
  { tool: 'repeat', label: 'Repeat in a row or round a point', key: 'N' },
  { tool: 'take', label: 'Take an edge or another sketch', key: 'K' },
];

/** Tools by the key that chooses them. */
export const TOOL_KEYS: ReadonlyMap<string, SketchTool> = new Map(
  [...DRAW, ...CHANGE, { tool: 'dimension', key: 'D' } as const].flatMap((entry) => (entry.key === undefined ? [] : [[entry.key.toLowerCase(), entry.tool]])),
);

/** The tools that are one press away. */
const AT_HAND: readonly Entry<SketchTool>[] = [
  { tool: 'select', label: 'Select', key: 'Esc' },
  { tool: 'line', label: 'Line', key: 'L' },
  { tool: 'rectangle', label: 'Rectangle', key: 'R' },
  { tool: 'circle', label: 'Circle', key: 'C' },
  { tool: 'arc', label: 'Arc', key: 'A' },
  { tool: 'dimension', label: 'Dimension', key: 'D' },
];

interface SketchStripProps {
  readonly sketch: string;
  readonly shape: DrawnShape;
  readonly tool: SketchTool;
  readonly options: DrawOptions;
  readonly offers: readonly ConstraintKind[];
  readonly selected: readonly string[];
  readonly word: string | undefined;
  readonly onTool: (tool: SketchTool) => void;
  /** Gives the keys back to the canvas. */
  readonly onFocus: () => void;
  readonly onOptions: (changes: Partial<DrawOptions>) => void;
  readonly onConstrain: (kind: ConstraintKind) => void;
  readonly onConstruction: () => void;
  readonly onReference: () => void;
  readonly onDelete: () => void;
  readonly onWord: (word: string) => void;
}

/** The verbs of sketching in one slim strip; those for a selection appear with it. */
export function SketchStrip(props: SketchStripProps) {
  const { sketch, tool, options, offers, selected, word, onTool } = props;
  const session = useSession();
  const workspace = useWorkspaceStore();
  const step = useSessionState((state) => findAny(state.document, sketch));
  const name = step && 'name' in step ? step.name : 'the sketch';
  const isDrawing = DRAW.some((entry) => entry.tool === tool);
  const hasEntities = selected.some((id) => {
    const record = findAny(session.document, id);
    return record !== undefined && isEntity(record);
  });
  const hasDimensions = selected.some((id) => findAny(session.document, id)?.type === 'dimension');
  const hasMore = isDrawing || offers.length > 0 || selected.length > 0 || word !== undefined;
  return (
    <div
      role="toolbar"
      aria-label="Sketch"
      className="absolute inset-x-0 top-0 z-20 flex flex-wrap items-center gap-x-0.5 gap-y-1 border-b border-rule bg-flax/95 px-1.5 py-1"
    >
      {AT_HAND.map((entry) => (
        <Button
          key={entry.tool}
          tone={tool === entry.tool ? 'strong' : 'quiet'}
          aria-pressed={tool === entry.tool}
          title={`Key ${entry.key ?? ''}`}
          onClick={() => onTool(entry.tool)}
        >
          {entry.label}
        </Button>
      ))}
      <ToolMenu label="More" entries={DRAW} tool={tool} onTool={onTool} onClose={props.onFocus} />
      <ToolMenu label="Change" entries={CHANGE} tool={tool} onTool={onTool} onClose={props.onFocus} />
      <span className="flex-1" />
      <Button tone="strong" onClick={() => beginStep(session, workspace, 'extrude', sketch)}>
        Extrude
      </Button>
      <SketchMenu sketch={sketch} name={name} shape={props.shape} onWord={props.onWord} />
      <Button aria-label={`Close ${name}`} onClick={() => workspace.setState({ sketch: undefined })}>
        Close
      </Button>
      {hasMore && (
        <div className="flex basis-full flex-wrap items-center gap-1">
          {isDrawing && (
            <label className="flex items-center gap-1 text-walnut-soft">
              <input type="checkbox" checked={options.isConstruction} onChange={(event) => props.onOptions({ isConstruction: event.target.checked })} />{' '}
              construction
            </label>
          )}
          {tool === 'polygon' && (
            <label className="flex items-center gap-1 text-walnut-soft">
              sides
              <input
                type="number"
                min={LEAST_SIDES}
                max={MOST_SIDES}
                className="h-7 w-14 rounded-box border border-rule bg-sheet px-1"
                value={options.sides}
                onChange={(event) => {
                  const sides = event.target.valueAsNumber;
                  if (Number.isInteger(sides) && sides >= LEAST_SIDES && sides <= MOST_SIDES) props.onOptions({ sides });
                }}
              />
            </label>
          )}
          {offers.map((kind) => (
            <Button key={kind} className="border-orchil" onClick={() => props.onConstrain(kind)}>
              {kind}
            </Button>
          ))}
          {hasEntities && <Button onClick={props.onConstruction}>construction</Button>}
          {hasDimensions && <Button onClick={props.onReference}>reference or driving</Button>}
          {selected.length > 0 && <Button onClick={props.onDelete}>delete</Button>}
          {word !== undefined && (
            <span role="status" className="px-1 text-weld">
              {word}
            </span>
          )}
        </div>
      )}
    </div>
  );
}

interface ToolMenuProps<T extends SketchTool> {
  readonly label: string;
  readonly entries: readonly Entry<T>[];
  readonly tool: SketchTool;
  readonly onTool: (tool: T) => void;
  readonly onClose: () => void;
}

function ToolMenu<T extends SketchTool>({ label, entries, tool, onTool, onClose }: ToolMenuProps<T>) {
  const current = entries.find((entry) => entry.tool === tool && !AT_HAND.some((other) => other.tool === tool));
  return (
    <Menu
      align="start"
      className={`${MENU} min-w-56`}
      button={{
        className: `h-7 rounded-box px-2.5 whitespace-nowrap ${current ? 'bg-indigo text-linen' : 'hover:bg-flax-deep'}`,
        children: (
          <>
            {current?.label ?? label} <span aria-hidden>…</span>
          </>
        ),
      }}
      // The canvas has the focus after a choice, so that its keys work.
      onCloseAutoFocus={(event) => {
        event.preventDefault();
        onClose();
      }}
    >
      {({ Item }) =>
        entries.map((entry) => (
          <Item
            key={entry.tool}
            className="flex cursor-default justify-between gap-6 px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash"
            onSelect={() => onTool(entry.tool)}
          >
            {entry.label}
            {entry.key !== undefined && <kbd className="font-mono text-xs text-walnut-soft">{entry.key}</kbd>}
          </Item>
        ))
      }
    </Menu>
  );
}
