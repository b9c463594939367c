import { FormulaReferencePage } from '@/ui/formula-reference/formula-reference';

export const metadata = { title: 'Formulas: Warpbeam' };

export default function Page() {
  return <FormulaReferencePage />;
}
