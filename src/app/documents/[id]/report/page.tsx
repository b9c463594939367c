import { ReportPage } from '@/ui/report/report-page';

export const metadata = { title: 'Report: Warpbeam' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <ReportPage id={(await params).id} />;
}
