import { SettingsPage } from '../../ui/settings/SettingsPage.tsx';

export const metadata = { title: 'Settings' };

export default function Page() {
  return <SettingsPage />;
}
