'use client';
import { useEffect, useMemo, useRef } from 'react';
import { Button } from '../design/button';
import { createViewport, type PickedGeometry, type PickKind, type ShownBody, type Viewport, type ViewName } from './viewport';

const VIEWS: readonly { readonly name: ViewName; readonly label: string; readonly key: string }[] = [
  { name: 'front', label: 'Front', key: '1' },
  { name: 'right', label: 'Right', key: '2' },
  { name: 'top', label: 'Top', key: '3' },
  { name: 'back', label: 'Back', key: '4' },
  { name: 'left', label: 'Left', key: '5' },
  { name: 'bottom', label: 'Bottom', key: '6' },
  { name: 'corner', label: 'Corner', key: '0' },
];

interface Canvas3dProps {
  readonly bodies: readonly ShownBody[];
  readonly highlighted?: ReadonlySet<string>;
  /** What a click looks for. */
  readonly wants?: PickKind;
  readonly onPick?: (picked: PickedGeometry | undefined) => void;
  /** Without the list of views, for small pictures; their keys still work. */
  readonly isSmall?: boolean;
  /** In words, for those who do not see the picture. */
  readonly description: string;
}

const NOTHING: ReadonlySet<string> = new Set();

/** Bodies in space. Drag turns, right drag moves, wheel zooms; keys 1 to 6 and 0 give views, F fits, + and - zoom. */
export function Canvas3d({ bodies, highlighted = NOTHING, wants = 'face', onPick, description, isSmall = false }: Canvas3dProps) {
  const host = useRef<HTMLDivElement>(null);
  const viewport = useRef<Viewport>(null);
  const pressed = useRef<{ x: number; y: number }>(null);
  const signature = useMemo(() => bodies.map(({ key, look }) => `${key} ${look}`).join(), [bodies]);
  const latest = useRef(bodies);

  useEffect(() => {
    latest.current = bodies;
  });
  useEffect(() => {
    // Three draws outside React, into its own canvas.
    if (!host.current) return undefined;
    const created = createViewport(host.current);
    viewport.current = created;
    return () => created.destroy();
  }, []);
  useEffect(() => {
    viewport.current?.show(latest.current);
  }, [signature]);
  useEffect(() => {
    viewport.current?.highlight(highlighted);
  }, [highlighted]);

  const onKeyDown = (event: React.KeyboardEvent): void => {
    const view = VIEWS.find(({ key }) => key === event.key);
    if (view) viewport.current?.view(view.name);
    else if (event.key === 'f' || event.key === 'F') viewport.current?.fit();
    else if (event.key === '+' || event.key === '=') viewport.current?.zoom(1.2);
    else if (event.key === '-') viewport.current?.zoom(1 / 1.2);
    else return;
    event.preventDefault();
  };

  return (
    <div className="relative h-full w-full overflow-hidden bg-linen">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- a picture that is turned by keys and mouse */}
      <div
        ref={host}
        role="img"
        aria-label={description}
        tabIndex={0} // eslint-disable-line jsx-a11y/no-noninteractive-tabindex -- its keys turn the picture
        className="absolute inset-0"
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          pressed.current = { x: event.clientX, y: event.clientY };
        }}
        onPointerUp={(event) => {
          const from = pressed.current;
          if (!from || !onPick || Math.hypot(event.clientX - from.x, event.clientY - from.y) > 4 || event.button !== 0) return;
          const box = event.currentTarget.getBoundingClientRect();
          onPick(viewport.current?.pick(event.clientX - box.left, event.clientY - box.top, wants));
        }}
      />
      <ul aria-label="Views" className="absolute right-2 bottom-2 flex flex-wrap gap-1 rounded-box bg-flax/80 p-1">
        {(isSmall ? [] : VIEWS).map(({ name, label, key }) => (
          <li key={name}>
            <Button tone="quiet" className="h-6" onClick={() => viewport.current?.view(name)} title={`Key ${key}`}>
              {label}
            </Button>
          </li>
        ))}
        <li>
          <Button tone="quiet" className="h-6" onClick={() => viewport.current?.fit()} title="Key F">
            Fit
          </Button>
        </li>
        {!isSmall && (
          <li>
            <Button tone="quiet" className="h-6" title="Saves the view as a PNG picture" onClick={() => savePicture(viewport.current?.picture())}>
              Picture
            </Button>
          </li>
        )}
      </ul>
    </div>
  );
}

function savePicture(address: string | undefined): void {
  if (address === undefined) return;
  const link = document.createElement('a');
  link.href = address;
  link.download = 'view.png';
  link.click();
}
