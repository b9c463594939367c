/** How the 3D picture is drawn, remembered in this browser. */
import { useStore } from 'zustand';
import { remembered } from '../state/remembered';

export interface ViewSettings {
  readonly isPerspective: boolean;
  readonly showsGround: boolean;
  /** Shade where surfaces come close to one another. */
  readonly showsShade: boolean;
  readonly showsEdges: boolean;
  readonly showsHidden: boolean;
  /** Dimensions of all steps on the solid; else those of what is selected. */
  readonly showsDimensions: boolean;
  /** What a click on a part takes, where nothing else is asked for. */
  readonly takes: 'either' | 'face' | 'edge' | 'body';
}

const PLAIN: ViewSettings = {
  isPerspective: false,
  showsGround: false,
  showsShade: true,
  showsEdges: true,
  showsHidden: false,
  showsDimensions: false,
  takes: 'either',
};

export const viewSettings = remembered('warpbeam-view', PLAIN);

export function useViewSettings(): ViewSettings {
  return useStore(viewSettings);
}
