'use client';
import { findRecord, listNamed, slotOf, type Body } from '@/core/document';
import { colourOf, listMaterials } from '@/core/steps';
import { kindDimension } from '@/core/units';
import { FormulaBox } from '../formula-box/formula-box';
import { BoxButton } from '../design/box-button';
import { TextField } from '../design/text-field';
import { WHOLE_LEDGER } from '../state/ledger-view';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { copyBody } from '../state/step-verbs';
import { Select } from '../design/fields';

const DENSITY = slotOf({ kind: 'density', name: 'the density', owner: 'body' });

/** What a body is called, made of and looks like. */
export function BodySettings({ body: id }: { body: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const body = useSessionState((state) => findRecord(state.document, id, 'body'));
  const built = useSessionState((state) => state.regenerated?.bodies.find((one) => one.id === id));
  const mass = built?.mass;
  if (!body) return null;
  const put = (changes: Partial<Body>): void => {
    session.edit({ type: 'body.put', body: { ...body, ...changes } });
  };
  return (
    <BoxButton
      align="end"
      width="w-72"
      label={`Body ${body.name}`}
      button={{
        className: 'flex h-6 items-center gap-1.5 rounded-box border border-rule bg-sheet px-1.5',
        'aria-label': `${body.name}: ${body.material || 'no material'}`,
        title: `${body.name}: name, material, colour`,
        children: (
          <>
            <span className="size-3 rounded-full border border-rule" style={{ background: colourOf(body) }} />
            <span className={`max-w-24 truncate ${body.material === '' ? 'text-walnut-soft' : ''}`}>{body.material || 'no material'}</span>
          </>
        ),
      }}
    >
      {(close) => (
        <>
          <p className="text-walnut-soft">Name</p>
          <TextField
            key={body.name}
            label={`Name of ${body.name}`}
            value={body.name}
            check={(text) => (text === '' || text.length > 80 ? 'A name has 1 to 80 characters.' : undefined)}
            onAccept={(name) => put({ name })}
          />
          <Density key={body.density === undefined ? 'table' : 'own'} body={body} put={put} />
          <label className="mt-2 flex items-center gap-2">
            <span className="text-walnut-soft">Colour</span>
            <input type="color" aria-label={`Colour of ${body.name}`} value={colourOf(body)} onChange={(event) => put({ colour: event.target.value })} />
            {body.colour !== undefined && (
              <button
                type="button"
                className="underline"
                onClick={() => {
                  const { colour: _, ...rest } = body;
                  session.edit({ type: 'body.put', body: rest });
                }}
              >
                that of the material
              </button>
            )}
          </label>
          <button
            type="button"
            className="mt-2 underline"
            onClick={() => {
              close();
              workspace.setState({ view: { ...WHOLE_LEDGER, body: id } });
            }}
          >
            Find the values that drive it
          </button>
          <button
            type="button"
            className="mt-2 block underline"
            onClick={() => {
              close();
              copyBody(session, workspace, body.id);
            }}
          >
            Copy with other values…
          </button>
          <p className="mt-2 text-walnut-soft">{mass === undefined ? (built?.massProblem ?? 'No mass: it is not built.') : `Mass ${mass.toFixed(4)} kg`}</p>
        </>
      )}
    </BoxButton>
  );
}

const OWN = 'of its own';

/** A material of the table, or a name and a formula for the density. */
function Density({ body, put }: { body: Body; put: (changes: Partial<Body>) => void }) {
  const session = useSession();
  const isOwn = body.density !== undefined;
  const known = listMaterials().find(({ name }) => name === body.material);
  const named = listNamed(session.document).filter(({ id }) => {
    const type = session.values.show(id)?.type;
    return type?.kind === 'quantity' && type.dimension === kindDimension('density');
  });
  return (
    <div className="mt-2">
      <Select
        label="Material"
        value={isOwn ? OWN : body.material}
        options={{
          '': 'no material',
          ...Object.fromEntries(listMaterials().map(({ name, density }) => [name, `${name}, ${density} g/cm³`])),
          ...Object.fromEntries(named.map(({ name }) => [`value ${name}`, `value ${name}`])),
          [OWN]: 'a density of its own…',
        }}
        onChange={(chosen) => {
          const { density: _, ...rest } = body;
          if (chosen === OWN) put({ material: 'Own material', density: { text: `${known?.density ?? '1'} g/cm^3` } });
          else if (chosen.startsWith('value ')) put({ material: chosen.slice(6), density: { text: chosen.slice(6) } });
          else session.edit({ type: 'body.put', body: { ...rest, material: chosen } });
        }}
      />
      {isOwn ? (
        <>
          <TextField label="Name of the material" value={body.material} onAccept={(material) => put({ material: material.slice(0, 60) || 'Own material' })} />
          <div className="mt-1">
            <FormulaBox
              values={session.values}
              initial={body.density?.text ?? ''}
              label="Density"
              slot={DENSITY}
              isField
              onCancel={() => undefined}
              onAccept={(text) => {
                put({ density: { text } });
                return undefined;
              }}
            />
          </div>
        </>
      ) : (
        known && <p className="text-walnut-soft">Density: {known.source}.</p>
      )}
    </div>
  );
}
