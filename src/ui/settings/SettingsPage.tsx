'use client';

import { useTheme } from 'next-themes';
import { SOUND, SOUND_CODECS } from '../../core/sound/codecs.ts';
import { VIDEO, VIDEO_CODECS } from '../../core/video/codecs.ts';
import type { HardwareView } from '../../contract/views.ts';
import { joinWords } from '../../core/text.ts';
import { useHardware, useSystem } from '../hooks/queries.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';
import { Notice } from '../kit/Notice.tsx';
import { Choices } from '../order/Choices.tsx';
import { FoldersSection } from './FoldersSection.tsx';
import { ForgottenSection } from './ForgottenSection.tsx';

/** How it looks, where files are, and what this machine can encode. */
export function SettingsPage() {
  const { data: system, error } = useSystem();
  const { theme, setTheme } = useTheme();
  const isInBrowser = useIsInBrowser();
  return (
    <main className="mx-auto max-w-6xl px-5 py-5">
      <h1 className="mb-3 text-2xl font-semibold">Settings</h1>
      {error && (
        <Notice kind="wrong" role="alert">
          {error.message}
        </Notice>
      )}
      <section className="mb-6 max-w-xs">
        <h2 className="text-lg font-semibold">Look</h2>
        <Choices
          label="Look"
          value={isInBrowser ? (theme ?? null) : null}
          choices={[
            { value: 'light', label: 'Light' },
            { value: 'dark', label: 'Dark' },
            { value: 'system', label: 'As the system' },
          ]}
          onChange={setTheme}
        />
      </section>
      {system && (
        <>
          <FoldersSection system={system} />
          <section className="mb-6">
            <h2 className="text-lg font-semibold">Data</h2>
            <Facts
              facts={[
                ['Folder', system.dataFolder],
                ['Database', system.database === 'embedded' ? 'embedded, in the data folder' : 'PostgreSQL server'],
              ]}
            />
          </section>
          <ForgottenSection />
          <section>
            <h2 className="text-lg font-semibold">Encoders</h2>
            {system.engine.problem && <Notice kind="wrong">{system.engine.problem}</Notice>}
            <Facts
              facts={[
                ['Engine', system.engine.version ?? 'not found'],
                ...VIDEO_CODECS.map(
                  (codec) => [VIDEO[codec].name, system.engine.encoders.includes(codec) ? 'ready' : 'missing'] as const,
                ),
                ...SOUND_CODECS.map(
                  (codec) =>
                    [SOUND[codec].name, system.engine.soundEncoders.includes(codec) ? 'ready' : 'missing'] as const,
                ),
              ]}
            />
            <Hardware />
          </section>
        </>
      )}
    </main>
  );
}

/** What of the machine's hardware encodes, or why nothing does. */
function Hardware() {
  const { data } = useHardware();
  if (!data) return <p className="text-quiet mt-2 text-sm">Trying the hardware’s encoders …</p>;
  const name = ({ codec, kind }: HardwareView['encoders'][number]) =>
    `${VIDEO[codec].name} by ${kind === 'simulated' ? 'a simulated device' : kind.toUpperCase()}`;
  const works = data.encoders.filter((one) => one.works).map(name);
  const tried = data.encoders.map(name);
  return (
    <p className="mt-2 max-w-[44rem] text-sm" data-testid="hardware">
      {tried.length === 0 && 'This engine was built without encoders in hardware.'}
      {tried.length > 0 &&
        works.length === 0 &&
        `No encoder in hardware works on this machine: ${joinWords(tried)} were tried with a few frames, and none came out, for want of the device or its driver.`}
      {works.length > 0 &&
        `In hardware a few frames came out of ${joinWords(works)}. It is fast, and at the same quality its files are larger; it holds an average rate, and fills no sizes. Fine control of an order has it beside the efforts.`}
    </p>
  );
}

function Facts({ facts }: { readonly facts: readonly (readonly [name: string, value: string])[] }) {
  return (
    <dl className="grid grid-cols-[8rem_1fr] gap-y-0.5">
      {facts.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-quiet">{name}</dt>
          <dd className="figure break-all">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
