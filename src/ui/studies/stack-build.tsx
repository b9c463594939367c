/** How far a stack is built that only the geometry tells. */
import { Button } from '../design/button';
import type { DeviationsBuild } from './use-deviations';

export function StackBuild({ progress, isCurrent, stop, again }: DeviationsBuild) {
  if (progress) {
    return (
      <div className="mt-1 flex items-center gap-3">
        <Button onClick={stop}>Stop</Button>
        <span role="status" className="text-walnut-soft">
          Building at the limits of each value: {progress.done} of {progress.of}
        </span>
      </div>
    );
  }
  if (isCurrent) return null;
  return (
    <div className="mt-1 flex items-center gap-3">
      <Button onClick={again}>Build</Button>
      <span className="text-walnut-soft">Stopped: not every value was built at its limits.</span>
    </div>
  );
}
