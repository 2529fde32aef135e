import type { RatedVideo } from '../../core/recipe/recipe.ts';
import { MOST_B_FRAMES } from '../../core/video/fine.ts';
import { encoderChoices } from '../../core/video/hardware.ts';
import { Choices } from './Choices.tsx';
import { BY_ITSELF, type FineVideoProps } from './fineVideoProps.ts';
import { ListToken } from './ListToken.tsx';
import { Token } from './Token.tsx';
import { readWhole, TypedField } from './TypedField.tsx';

/** Where keyframes lie, and in which order frames are stored. */
export function FineKeyframes({ video, change, problemOf }: FineVideoProps<RatedVideo>) {
  const { fine } = encoderChoices(video);
  const problem = (key: keyof RatedVideo) => problemOf(`video.${key}`);
  return (
    <>
      , a keyframe at least every <KeyframeToken video={video} change={change} problemOf={problemOf} />
      {fine.scenes && (
        <>
          {' '}
          <ListToken
            label="Keyframes where scenes begin"
            value={video.keyframesAtScenes ? 'yes' : 'no'}
            problem={problem('keyframesAtScenes')}
            choices={[
              { value: 'yes', label: 'and where scenes begin' },
              { value: 'no', label: 'and nowhere else' },
            ]}
            onChange={(value) => change({ ...video, keyframesAtScenes: value === 'yes' })}
          />
        </>
      )}
      {fine.marks && (
        <>
          , portions begin{' '}
          <ListToken
            label="Keyframes where portions begin"
            value={video.keyframesAtPortions ? 'yes' : 'no'}
            problem={problem('keyframesAtPortions')}
            choices={[
              {
                value: 'yes',
                label: 'with one too',
                hint: 'Players get there at once; cuts there lose nothing.',
              },
              { value: 'no', label: 'anywhere' },
            ]}
            onChange={(value) => change({ ...video, keyframesAtPortions: value === 'yes' })}
          />
        </>
      )}
      {fine.closedGroups && (
        <>
          , groups of pictures{' '}
          <ListToken
            label="Groups of pictures"
            value={video.closedGroups === null ? 'none' : video.closedGroups ? 'closed' : 'open'}
            problem={problem('closedGroups')}
            choices={[
              { value: 'none', label: BY_ITSELF, hint: 'As the encoder has it.' },
              { value: 'closed', label: 'closed', hint: 'Each stands by itself: best to cut and to seek.' },
              { value: 'open', label: 'open', hint: 'Frames may look into the next: a little smaller.' },
            ]}
            onChange={(value) => change({ ...video, closedGroups: value === 'none' ? null : value === 'closed' })}
          />
        </>
      )}
      {fine.bFrames && (
        <>
          , B-frames <ReorderingToken video={video} change={change} problemOf={problemOf} />
        </>
      )}
    </>
  );
}

function KeyframeToken({ video, change, problemOf }: FineVideoProps<RatedVideo>) {
  const { keyframes } = video;
  const text = 'frames' in keyframes ? `${keyframes.frames} frames` : `${keyframes.seconds} s`;
  return (
    <Token label="Keyframe distance" text={text} problem={problemOf('video.keyframes')}>
      {(close) => (
        <TypedField
          hasFocus
          onLeave={close}
          label="At most, in seconds or frames"
          value={text}
          write={String}
          read={(typed) => (readDistance(typed) ? { value: typed } : { fault: 'Type 5 s, or 120 frames.' })}
          onChange={(typed) => change({ ...video, keyframes: readDistance(typed) ?? keyframes })}
          hint="Shorter seeks quicker and takes more; 2 to 10 s is usual. A size to fill takes shorter ones where it needs them."
        />
      )}
    </Token>
  );
}

function readDistance(text: string): RatedVideo['keyframes'] | null {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*(s|sec|seconds?|f|frames?)?\s*$/i.exec(text);
  if (!match) return null;
  const value = Number(match[1]!.replace(',', '.'));
  if (/^f/i.test(match[2] ?? ''))
    return Number.isInteger(value) && value >= 1 && value <= 3600 ? { frames: value } : null;
  return value >= 0.04 && value <= 60 ? { seconds: value } : null;
}

function ReorderingToken({ video, change, problemOf }: FineVideoProps<RatedVideo>) {
  const text = video.reordering ? (video.bFrames === null ? BY_ITSELF : `at most ${video.bFrames}`) : 'none';
  return (
    <Token label="B-frames" text={text} problem={problemOf('video.bFrames') ?? problemOf('video.reordering')}>
      {(close) => (
        <>
          <Choices
            label="B-frames"
            value={video.reordering ? 'yes' : 'no'}
            choices={[
              { value: 'yes', label: 'as they help', hint: 'Stored out of order; smaller for the same picture.' },
              { value: 'no', label: 'none', hint: 'Every frame in the order it is shown, for old players.' },
            ]}
            onChange={(value) => {
              change({ ...video, reordering: value === 'yes' });
              if (value === 'no') close();
            }}
          />
          {video.reordering && (
            <TypedField
              label="In a row at most"
              onLeave={close}
              value={video.bFrames}
              write={(value) => value?.toString() ?? ''}
              read={(typed) => (typed.trim() === '' ? { value: null } : readWhole(1, MOST_B_FRAMES, 'a number')(typed))}
              onChange={(bFrames) => change({ ...video, bFrames })}
              hint="Left empty, the encoder decides."
            />
          )}
        </>
      )}
    </Token>
  );
}
