import { ProgrammesPage } from '../ui/programmes/ProgrammesPage.tsx';

export const metadata = { title: 'Programmes' };

export default function Page() {
  return <ProgrammesPage />;
}
