/** What the workspace loads with its first use: canvases, and tasks that take the page for a while. The server draws nothing of them. */
import dynamic from 'next/dynamic';

export const loadSplit = () => import('./split-workspace');
export const SplitWorkspace = dynamic(() => loadSplit().then((module) => module.SplitWorkspace), { ssr: false });

export const loadQuestion = () => import('./question-dialog');
export const QuestionDialog = dynamic(() => loadQuestion().then((module) => module.QuestionDialog), { ssr: false });

export const CatchUpDialog = dynamic(() => import('../catch-up/catch-up-dialog').then((module) => module.CatchUpDialog), { ssr: false });
export const HistoryDialog = dynamic(() => import('../history/history-dialog').then((module) => module.HistoryDialog), { ssr: false });
export const LinkDialog = dynamic(() => import('../links/link-dialog').then((module) => module.LinkDialog), { ssr: false });
export const OutsideDialog = dynamic(() => import('../outside/outside-dialog').then((module) => module.OutsideDialog), { ssr: false });
export const RepointDialog = dynamic(() => import('../links/repoint-dialog').then((module) => module.RepointDialog), { ssr: false });
export const HandOverDialog = dynamic(() => import('../links/hand-over-dialog').then((module) => module.HandOverDialog), { ssr: false });
export const AddComponentDialog = dynamic(() => import('../assembly/add-component-dialog').then((module) => module.AddComponentDialog), { ssr: false });
export const StackDialog = dynamic(() => import('../studies/stack-dialog').then((module) => module.StackDialog), { ssr: false });
export const LimitsDialog = dynamic(() => import('../studies/limits-dialog').then((module) => module.LimitsDialog), { ssr: false });
export const RangeDialog = dynamic(() => import('../studies/range-dialog').then((module) => module.RangeDialog), { ssr: false });
export const MapDialog = dynamic(() => import('../studies/map-dialog').then((module) => module.MapDialog), { ssr: false });
export const GoalsDialog = dynamic(() => import('../studies/goals-dialog').then((module) => module.GoalsDialog), { ssr: false });
export const MinimiseDialog = dynamic(() => import('../studies/minimise-dialog').then((module) => module.MinimiseDialog), { ssr: false });
export const PasteWatch = dynamic(() => import('../steps/paste-watch').then((module) => module.PasteWatch), { ssr: false });
export const SizesPage = dynamic(() => import('../sizes/sizes-page').then((module) => module.SizesPage), { ssr: false });
export const WhatIfsPage = dynamic(() => import('../what-ifs/what-ifs-page').then((module) => module.WhatIfsPage), { ssr: false });
export const KeysPage = dynamic(() => import('../help/keys-page').then((module) => module.KeysPage), { ssr: false });
export const RemovalDialog = dynamic(() => import('../ledger/removal-dialog').then((module) => module.RemovalDialog), { ssr: false });
export const ReferenceDrawer = dynamic(() => import('../formula-reference/reference-drawer').then((module) => module.ReferenceDrawer), { ssr: false });
export const TableDialog = dynamic(() => import('../value-table/table-dialog').then((module) => module.TableDialog), { ssr: false });
