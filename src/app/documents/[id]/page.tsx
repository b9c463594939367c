import { DocumentPage } from '@/ui/shell/document-page';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <DocumentPage id={(await params).id} />;
}
