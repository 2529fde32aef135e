import { ToggleGroup } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { Rational } from '../../core/timing/rational.ts';
import { frameToTimecode, parsePosition, type TimecodeStart } from '../../core/timing/timecode.ts';
import { Button } from '../kit/Button.tsx';
import type { Mode, Zoom } from './PictureView.tsx';

interface Props {
  readonly frame: number;
  /** The frame whose pictures are on the desk; another than `frame` while they are decoded. */
  readonly shownFrame: number | null;
  readonly hasFailed: boolean;
  readonly inFrame: number;
  readonly rate: Rational;
  /** Where the master's timecode begins. */
  readonly start: TimecodeStart;
  readonly ssim: number | null;
  readonly psnr: number | null;
  readonly mode: Mode;
  readonly zoom: Zoom;
  readonly onFrame: (frame: number) => void;
  readonly onMode: (mode: Mode) => void;
  readonly onZoom: (zoom: Zoom) => void;
  readonly onWorst: () => void;
}

/** Where on the length, how it is shown, and what this frame measures. */
export function DeskControls(props: Props) {
  const { frame, shownFrame, rate, start, inFrame } = props;
  const isWaiting = shownFrame !== frame;
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
      <PositionField key={frame} {...props} />
      <span className="figure" data-testid="timecode">
        {frameToTimecode(inFrame + frame, rate, start)}
      </span>
      <span className="figure text-measured" data-testid="frame-quality">
        SSIM {props.ssim?.toFixed(4) ?? '–'} · PSNR {props.psnr?.toFixed(1) ?? '–'} dB
      </span>
      <Button onClick={props.onWorst} hotkey="W">
        Worst frame
      </Button>
      <span aria-live="polite" className="text-quiet text-sm">
        {props.hasFailed ? 'This frame could not be decoded.' : isWaiting ? 'decoding …' : ''}
      </span>
      <span className="ml-auto flex gap-3">
        <Group
          label="How the pictures are laid out"
          value={props.mode}
          choices={[
            ['split', 'Split'],
            ['flip', 'Flip'],
            ['side', 'Side by side'],
          ]}
          onChange={(mode) => props.onMode(mode as Mode)}
        />
        <Group
          label="Enlargement"
          value={props.zoom}
          choices={[
            ['fit', 'Fitted'],
            ['1', '1:1'],
            ['4', '4:1'],
          ]}
          onChange={(zoom) => props.onZoom(zoom as Zoom)}
        />
      </span>
    </div>
  );
}

/** A frame number or a timecode; taken with Enter. */
function PositionField({ frame, inFrame, rate, start, onFrame }: Props) {
  const [text, setText] = useState(String(inFrame + frame));
  const [isWrong, setWrong] = useState(false);
  useEffect(() => setWrong(false), [text]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        const position = parsePosition(text, rate, start);
        if (position === null) setWrong(true);
        else onFrame(position - inFrame);
      }}
    >
      <label className="flex items-center gap-2">
        Frame
        <input
          value={text}
          onChange={(event) => setText(event.target.value)}
          onFocus={(event) => event.target.select()}
          aria-invalid={isWrong}
          title="A frame number, a timecode such as 00:00:12:05, or seconds such as 3.2s"
          className="figure border-rule bg-paper aria-invalid:border-wrong w-32 rounded border px-2 py-0.5"
        />
        {isWrong && <span className="text-wrong text-sm">Type a frame, 00:00:12:05 or 3.2s.</span>}
      </label>
    </form>
  );
}

interface GroupProps {
  readonly label: string;
  readonly value: string;
  readonly choices: readonly (readonly [value: string, text: string])[];
  readonly onChange: (value: string) => void;
}

function Group({ label, value, choices, onChange }: GroupProps) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(chosen) => chosen && onChange(chosen)}
      className="border-rule flex overflow-hidden rounded border"
    >
      {choices.map(([choice, text]) => (
        <ToggleGroup.Item
          key={choice}
          value={choice}
          className="hover:bg-sunk data-[state=on]:bg-ink data-[state=on]:text-paper px-2.5 py-0.5"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
