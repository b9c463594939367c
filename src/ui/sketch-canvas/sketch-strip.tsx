'use client';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { findAny, isEntity, type ConstraintKind } from '@/core/document';
import { BuildPanel } from './build-panel';
import type { SketchTool } from './use-sketch-tools';

const TOOLS: readonly { readonly tool: SketchTool; readonly label: string; readonly key: string }[] = [
  { tool: 'select', label: 'Select', key: 'Esc' },
  { tool: 'line', label: 'Line', key: 'L' },
  { tool: 'rectangle', label: 'Rectangle', key: 'R' },
  { tool: 'circle', label: 'Circle', key: 'C' },
  { tool: 'arc', label: 'Arc', key: 'A' },
  { tool: 'dimension', label: 'Dimension', key: 'D' },
];

interface SketchStripProps {
  readonly sketch: string;
  readonly tool: SketchTool;
  readonly offers: readonly ConstraintKind[];
  readonly selected: readonly string[];
  readonly onTool: (tool: SketchTool) => void;
  readonly onConstrain: (kind: ConstraintKind) => void;
  readonly onConstruction: () => void;
  readonly onDelete: () => void;
}

/** The verbs of sketching in one slim strip; those for a selection appear with it. */
export function SketchStrip({ sketch, tool, offers, selected, onTool, onConstrain, onConstruction, onDelete }: SketchStripProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const step = useSessionState((state) => findAny(state.document, sketch));
  const mode = useWorkspace((state) => state.dimensionText);
  const hasEntities = selected.some((id) => {
    const record = findAny(session.document, id);
    return record !== undefined && isEntity(record);
  });
  return (
    <div
      role="toolbar"
      aria-label="Sketch"
      className="absolute inset-x-0 top-0 z-20 flex flex-wrap items-center gap-1 border-b border-rule bg-flax/95 px-2 py-1"
    >
      {TOOLS.map((entry) => (
        <Button
          key={entry.tool}
          tone={tool === entry.tool ? 'strong' : 'quiet'}
          aria-pressed={tool === entry.tool}
          title={`Key ${entry.key}`}
          onClick={() => onTool(entry.tool)}
        >
          {entry.label}
        </Button>
      ))}
      <span className="mx-1 h-5 border-l border-rule" />
      {offers.map((kind) => (
        <Button key={kind} className="border-orchil" onClick={() => onConstrain(kind)}>
          {kind}
        </Button>
      ))}
      {hasEntities && <Button onClick={onConstruction}>construction</Button>}
      {selected.length > 0 && <Button onClick={onDelete}>delete</Button>}
      <span className="flex-1" />
      <label className="text-walnut-soft">
        Show{' '}
        <select
          className="h-7 rounded-box border border-rule bg-sheet"
          value={mode}
          onChange={(event) => workspace.setState({ dimensionText: event.target.value as typeof mode })}
        >
          <option value="value">values</option>
          <option value="name">names</option>
          <option value="formula">formulas</option>
        </select>
      </label>
      <BuildPanel sketch={sketch} />
      <Button onClick={() => workspace.setState({ sketch: undefined })}>Close {step && 'name' in step ? step.name : 'the sketch'}</Button>
    </div>
  );
}
