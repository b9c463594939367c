import { ProjectPage } from '@/ui/projects/project-page';

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <ProjectPage id={(await params).id} />;
}
