import { ProjectsPage } from '@/ui/projects/projects-page';

export default function Page() {
  return <ProjectsPage />;
}
