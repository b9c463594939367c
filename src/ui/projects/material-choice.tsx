'use client';
import { useState } from 'react';
import { listMaterials } from '@/core/steps';
import { api } from '../state/api';

/** What new bodies in this project are of. */
export function MaterialChoice({ project, material, onChanged }: { project: string; material: string; onChanged: () => void }) {
  const [problem, setProblem] = useState<string>();
  const names = listMaterials().map(({ name }) => name);
  const choose = async (chosen: string): Promise<void> => {
    const reply = await api.changeProject(project, { material: chosen });
    setProblem(reply.ok ? undefined : reply.failure.message);
    if (reply.ok) onChanged();
  };
  return (
    <label className="flex items-center gap-2 text-walnut-soft">
      {problem !== undefined && (
        <span role="alert" className="text-madder">
          {problem}
        </span>
      )}
      Material of new bodies
      <select className="h-7 rounded-box border border-rule bg-sheet px-1 text-walnut" value={material} onChange={(event) => void choose(event.target.value)}>
        <option value="">none</option>
        {[...(material === '' || names.includes(material) ? [] : [material]), ...names].map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
