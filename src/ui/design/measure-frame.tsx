'use client';
import { Button } from './button';

interface MeasureFrameProps {
  /** What was clicked, in words: one thing or two. */
  readonly picks: readonly string[];
  /** Why something was not done or cannot be read. */
  readonly told: string | undefined;
  readonly onClose: () => void;
  /** What is read of it. */
  readonly children: React.ReactNode;
}

/** The panel of measuring, over a part or an assembly: what is clicked, and what is read of that. */
export function MeasureFrame({ picks, told, onClose, children }: MeasureFrameProps) {
  return (
    // Escape leaves from anywhere in it.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <section
      aria-label="Measure"
      data-over="left"
      className="absolute top-2 left-2 z-30 flex max-h-[calc(100%-1rem)] w-80 flex-col overflow-y-auto rounded-box border border-rule bg-sheet shadow-box"
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
      }}
    >
      <header className="flex items-center border-b border-rule py-1 pr-2 pl-3">
        <h2 className="flex-1 font-semibold">Measure</h2>
        <Button
          tone="quiet"
          className="h-6"
          onClick={onClose}
          autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- Escape closes it from here
        >
          Close
        </Button>
      </header>
      <ol className="px-3 pt-2">
        {['Click a face, an edge or a corner.', 'Click a second one.'].map((asked, i) => (
          <li key={asked} className={picks[i] === undefined ? 'text-walnut-soft' : ''}>
            {picks[i] ?? asked}
          </li>
        ))}
      </ol>
      {children}
      {told !== undefined && (
        <p role="status" className="px-3 pb-2 text-madder">
          {told}
        </p>
      )}
    </section>
  );
}
