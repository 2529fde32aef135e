import type { RatedVideo } from '../../core/recipe/recipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import { encoderChoices } from '../../core/video/hardware.ts';
import { PROFILES, TIERS } from '../../core/video/fine.ts';
import { BY_ITSELF, type FineVideoProps } from './fineVideoProps.ts';
import { ListToken } from './ListToken.tsx';

/** What the stream is marked with, for players that go by it. */
export function FineLabels({ video, change, problemOf }: FineVideoProps<RatedVideo>) {
  const { fine } = encoderChoices(video);
  const problem = (key: keyof RatedVideo) => problemOf(`video.${key}`);
  return (
    <>
      {Object.keys(fine.profiles).length > 0 && (
        <>
          , profile{' '}
          <ListToken
            label="Profile"
            value={video.profile ?? 'none'}
            problem={problem('profile')}
            choices={[
              { value: 'none', label: BY_ITSELF, hint: 'The lowest that carries the pixels.' },
              ...PROFILES.flatMap((profile) => {
                const definition = fine.profiles[profile];
                return definition ? [{ value: profile, label: definition.name, hint: definition.hint }] : [];
              }),
            ]}
            onChange={(value) => change({ ...video, profile: PROFILES.find((one) => one === value) ?? null })}
          />
        </>
      )}
      {fine.level && (
        <>
          , level{' '}
          <ListToken
            label="Level"
            value={video.level ?? 'none'}
            problem={problem('level')}
            choices={[
              { value: 'none', label: BY_ITSELF },
              ...RATED[video.codec].levels.levels.map(({ name }) => ({ value: name, label: name })),
            ]}
            onChange={(value) => change({ ...video, level: value === 'none' ? null : value })}
          />
        </>
      )}
      {fine.tier && (
        <>
          , tier{' '}
          <ListToken
            label="Tier"
            value={video.tier ?? 'none'}
            problem={problem('tier')}
            choices={[
              { value: 'none', label: BY_ITSELF },
              { value: 'main', label: 'Main' },
              { value: 'high', label: 'High', hint: 'Allows higher rates; few players promise it.' },
            ]}
            onChange={(value) => change({ ...video, tier: TIERS.find((tier) => tier === value) ?? null })}
          />
        </>
      )}
    </>
  );
}
