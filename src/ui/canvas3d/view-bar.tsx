'use client';
import { Button } from '../design/button';
import { Menu } from '../design/menu';
import { useViewSettings, viewSettings, type ViewSettings } from './view-settings';
import type { Viewport, ViewName } from './viewport';

export const VIEWS: readonly { readonly name: ViewName; readonly label: string; readonly key: string }[] = [
  { name: 'front', label: 'Front', key: '1' },
  { name: 'right', label: 'Right', key: '2' },
  { name: 'top', label: 'Top', key: '3' },
  { name: 'back', label: 'Back', key: '4' },
  { name: 'left', label: 'Left', key: '5' },
  { name: 'bottom', label: 'Bottom', key: '6' },
  { name: 'corner', label: 'Corner', key: '0' },
];

const SETTINGS: readonly { readonly setting: Exclude<keyof ViewSettings, 'takes'>; readonly label: string }[] = [
  { setting: 'isPerspective', label: 'Perspective' },
  { setting: 'showsGround', label: 'Ground lines' },
  { setting: 'showsShade', label: 'Contact shade' },
  { setting: 'showsEdges', label: 'Edges' },
  { setting: 'showsHidden', label: 'Hidden edges' },
  { setting: 'showsDimensions', label: 'All dimensions' },
];

const TAKES: Readonly<Record<ViewSettings['takes'], string>> = { either: 'Faces and edges', face: 'Faces', edge: 'Edges', body: 'Bodies' };

const ITEM = 'flex cursor-default items-center gap-6 py-1 pr-3 pl-7 outline-none data-[highlighted]:bg-indigo-wash';

/** Where it is looked from, how it is drawn, and whatever else belongs to the picture. */
interface ViewBarProps {
  readonly viewport: Viewport;
  /** Whether what a click takes can be chosen. */
  readonly hasFilter: boolean;
  readonly children?: React.ReactNode;
}

export function ViewBar({ viewport, hasFilter, children }: ViewBarProps) {
  const settings = useViewSettings();
  return (
    <div
      role="group"
      aria-label="Picture"
      data-clear
      className="absolute right-2 bottom-2 flex max-w-[calc(100%-13.5rem)] flex-wrap items-center justify-end gap-1"
    >
      {children}
      <Menu align="end" sideOffset={4} button={{ children: 'View', className: 'h-6 shrink-0 rounded-box bg-flax/90 px-2.5 leading-6 hover:bg-flax-deep' }}>
        {({ Item, Separator, CheckboxItem, ItemIndicator, Label, RadioGroup, RadioItem }) => (
          <>
            {VIEWS.map(({ name, label, key }) => (
              <Item key={name} className={ITEM} onSelect={() => viewport.view(name)}>
                <span className="flex-1">{label}</span>
                <span aria-hidden className="text-xs text-walnut-soft">
                  {key}
                </span>
              </Item>
            ))}
            <Separator className="my-1 border-t border-rule" />
            {SETTINGS.map(({ setting, label }) => (
              <CheckboxItem
                key={setting}
                className={`relative ${ITEM}`}
                checked={settings[setting]}
                onCheckedChange={(isOn) => viewSettings.setState({ [setting]: isOn })}
              >
                <ItemIndicator className="absolute left-2.5">✓</ItemIndicator>
                {label}
              </CheckboxItem>
            ))}
            {hasFilter && (
              <>
                <Separator className="my-1 border-t border-rule" />
                <Label className="px-3 py-0.5 text-xs text-walnut-soft">A click takes</Label>
                <RadioGroup value={settings.takes} onValueChange={(takes) => viewSettings.setState({ takes: takes as ViewSettings['takes'] })}>
                  {Object.entries(TAKES).map(([takes, label]) => (
                    <RadioItem key={takes} value={takes} className={`relative ${ITEM}`}>
                      <ItemIndicator className="absolute left-2.5">✓</ItemIndicator>
                      {label}
                    </RadioItem>
                  ))}
                </RadioGroup>
              </>
            )}
            <Separator className="my-1 border-t border-rule" />
            <Item className={ITEM} onSelect={() => savePicture(viewport.picture())}>
              Save as PNG
            </Item>
          </>
        )}
      </Menu>
      <FitButton viewport={viewport} />
    </div>
  );
}

/** All there is of it for small pictures. */
export function FitButton({ viewport }: { viewport: Viewport }) {
  return (
    <Button tone="quiet" className="h-6 bg-flax/90" onClick={() => viewport.fit()} title="Key F">
      Fit
    </Button>
  );
}

function savePicture(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = 'view.png';
  link.click();
}
