import { Button } from '../design/button';

interface RunButtonProps {
  readonly label: string;
  readonly isRunning: boolean;
  readonly isOff: boolean;
  readonly onRun: () => void;
  readonly onStop: () => void;
}

/** Starts a study, or stops the one that runs. */
export function RunButton({ label, isRunning, isOff, onRun, onStop }: RunButtonProps) {
  if (isRunning) return <Button onClick={onStop}>Stop</Button>;
  return (
    <Button tone="strong" disabled={isOff} onClick={onRun}>
      {label}
    </Button>
  );
}
