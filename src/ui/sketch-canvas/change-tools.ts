/** Tools that change what is drawn, and those of them that ask for a value. */
import {
  chamferCorner,
  extendCurve,
  filletCorner,
  offsetCurves,
  splitCurve,
  trimCurve,
  type ChangeContext,
  type ChangeResult,
  type NamedFormula,
  type Place,
} from '@/core/drawing';

const CUT_TOOLS = { trim: trimCurve, extend: extendCurve, split: splitCurve } as const;

type CutTool = keyof typeof CUT_TOOLS;
type ValueTool = 'fillet' | 'chamfer' | 'offset';
export type ChangeTool = CutTool | ValueTool | 'mirror' | 'repeat' | 'take';

const CHANGE_TOOLS: readonly string[] = ['trim', 'extend', 'split', 'fillet', 'chamfer', 'offset', 'mirror', 'repeat', 'take'] satisfies ChangeTool[];

export function isChangeTool(tool: string): tool is ChangeTool {
  return CHANGE_TOOLS.includes(tool);
}

export function isCutTool(tool: ChangeTool): tool is CutTool {
  return tool in CUT_TOOLS;
}

export function cutTool(tool: CutTool): (context: ChangeContext, id: string, at: Place) => ChangeResult {
  return CUT_TOOLS[tool];
}

/** A change that waits for its value. */
export interface ChangeWish {
  readonly tool: ValueTool;
  readonly ids: readonly string[];
  readonly at: Place;
}

/** `size` in millimetres is what the formula gives now. */
export function changeByValue(context: ChangeContext, wish: ChangeWish, value: NamedFormula, size: number): ChangeResult {
  const [point = ''] = wish.ids;
  switch (wish.tool) {
    case 'fillet':
      return filletCorner(context, point, size, value);
    case 'chamfer':
      return chamferCorner(context, point, size, value);
    case 'offset':
      return offsetCurves(context, { ids: wish.ids, towards: wish.at, distance: size, value });
  }
}
