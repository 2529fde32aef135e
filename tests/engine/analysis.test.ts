import { copyFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import type { AnalysisStretch } from '../../src/core/analysis/planAnalysis.ts';
import { openAtFrame } from '../../src/core/programme/opening.ts';
import { analyseFile } from '../support/analyse.ts';
import { draw, drawMaster, makeFolder, spoilMiddle } from '../support/footage.ts';

// Footage made here with known truth: what is found must be what was drawn.
const folder = makeFolder();
const file = (name: string) => path.join(folder, name);

/** A picture that moves everywhere, so that fields and cuts can be told. */
const moving = (seconds: number, rate = 25, size = '320x180') =>
  `testsrc2=s=${size}:r=${rate}:d=${seconds},scroll=horizontal=0.01:vertical=0.004`;

function drawGraph(name: string, graph: string, extra: readonly string[] = []): string {
  const hasSound = graph.includes('[sound]');
  return draw(file(name), [
    ...['-filter_complex', graph, '-map', '[picture]', ...(hasSound ? ['-map', '[sound]', '-c:a', 'pcm_s16le'] : [])],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '12', '-pix_fmt', 'yuv420p', ...extra],
  ]);
}

describe('the analysis finds', () => {
  it('black at head and tail, to the frame, and the cuts beside it', async () => {
    const black = (seconds: number) => `color=black:s=320x180:r=25:d=${seconds}`;
    const master = drawGraph(
      'black.mov',
      `${black(1)}[a];${moving(3)}[b];smptebars=s=320x180:r=25:d=2[c];${black(0.8)}[d];[a][b][c][d]concat=n=4:v=1:a=0[picture]`,
    );
    const { findings } = await analyseFile(master);
    expect(findings.black).toEqual([
      { inFrame: 0, outFrame: 24 },
      { inFrame: 150, outFrame: 169 },
    ]);
    expect(findings.sceneChanges).toEqual([25, 100, 150]);
    expect(findings.frozen).toEqual([{ inFrame: 100, outFrame: 149 }]);
  });

  it.each([
    ['letterbox', 'pad=320:240:0:30', { top: 30, bottom: 30, left: 0, right: 0 }],
    ['pillarbox, off centre', 'pad=400:180:50:0', { top: 0, bottom: 0, left: 50, right: 30 }],
    ['none', 'null', { top: 0, bottom: 0, left: 0, right: 0 }],
  ])('bars: %s', async (name, pad, bars) => {
    const master = drawGraph(`bars ${name}.mov`, `${moving(6)},${pad}[picture]`);
    expect((await analyseFile(master)).findings.bars).toEqual(bars);
  });

  it('no bars in a night sky that is dark above', async () => {
    const sky = `color=black:s=320x240:r=25:d=6,format=yuv420p,geq=lum='18+60*Y/240+if(gt(random(1),0.998),120,0)':cb=128:cr=128`;
    expect((await analyseFile(drawGraph('sky.mov', `${sky}[picture]`))).findings.bars).toMatchObject({
      top: 0,
      bottom: 0,
    });
  });

  it.each([
    ['top-first', 'tinterlace=mode=interleave_top', 'top-first'],
    ['bottom-first', 'tinterlace=mode=interleave_bottom', 'bottom-first'],
    ['progressive', 'fps=25', 'progressive'],
  ])('the scan of a %s picture, untagged', async (name, filter, scan) => {
    const master = drawGraph(`scan ${name}.mov`, `${moving(4, 50, '320x240')},${filter},setfield=prog[picture]`);
    expect((await analyseFile(master)).findings.scan).toBe(scan);
  });

  it.each([
    ['ProRes 4444', 'mov', ['-c:v', 'prores_ks', '-profile:v', '4444'], 'yuva444p10le'],
    ['VP9', 'webm', ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8'], 'yuva420p'],
    ['PNG', 'mov', ['-c:v', 'png'], 'rgba'],
  ])('whether a picture of %s is transparent anywhere', async (name, ending, encoding, format) => {
    const veiled = async (what: string, alpha: string) => {
      // Of one frame alone: that is transparency.
      const graph = `testsrc2=s=96x64:r=25:d=1,format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='${alpha}'`;
      const to = file(`${what} ${name}.${ending}`);
      draw(to, ['-f', 'lavfi', '-i', graph, '-pix_fmt', format, ...encoding]);
      const { facts, findings } = await analyseFile(to);
      expect(facts.video?.alpha).toBe(true);
      return findings.opaque;
    };
    expect(await veiled('full', '255')).toBe(true);
    expect(await veiled('part', 'if(lt(X,20)*eq(N,13),100,255)')).toBe(false);
  });

  it('silence, like channels, an empty one, and opposite polarity', async () => {
    const tone = 'sine=frequency=440:sample_rate=48000:duration=4';
    const heard = `volume='if(between(t,1,2.5),0,1)':eval=frame`;
    const sound = async (name: string, pan: string) => {
      const graph = `${tone},${heard},pan=${pan}[sound];${moving(4)}[picture]`;
      return (await analyseFile(drawGraph(`${name}.mov`, graph))).findings;
    };
    const like = await sound('like', 'stereo|c0=c0|c1=c0');
    expect(like.channels).toMatchObject({ identical: true, outOfPhase: false, silent: [] });
    expect(like.silence).toHaveLength(1);
    expect(like.silence[0]?.startSeconds).toBeCloseTo(1, 0);
    expect(like.silence[0]?.endSeconds).toBeCloseTo(2.5, 0);
    expect((await sound('opposite', 'stereo|c0=c0|c1=-1*c0')).channels).toMatchObject({ outOfPhase: true });
    expect((await sound('one side', 'stereo|c0=c0|c1=0*c0')).channels).toMatchObject({ silent: [1] });
  });

  it('that a hard stretch needs more than an easy one', async () => {
    const master = drawGraph(
      'busy.mov',
      `color=gray:s=320x180:r=25:d=3[a];${moving(3)},noise=c0s=40:c0f=t[b];[a][b]concat=n=2:v=1:a=0[picture]`,
    );
    const bits = (await analyseFile(master)).findings.busyness?.bits ?? [];
    expect(bits).toHaveLength(12);
    expect(Math.min(...bits.slice(6))).toBeGreaterThan(10 * Math.max(...bits.slice(0, 6)));
  });

  it('damage, near where it is, and none in a sound file', async () => {
    const master = drawMaster(file('whole.mov'), { seconds: 6, grain: 30 });
    expect((await analyseFile(master)).findings.damaged).toEqual([]);
    copyFileSync(master, file('spoilt.mov'));
    spoilMiddle(file('spoilt.mov'), 60_000);
    const { findings } = await analyseFile(file('spoilt.mov'));
    expect(findings.damaged.length).toBeGreaterThan(0);
    for (const { inFrame } of findings.damaged) expect(Math.abs(inFrame / 25 - 3)).toBeLessThan(1.5);
  });

  it('sound alone, without a picture', async () => {
    const tone = draw(file('tone.wav'), ['-f', 'lavfi', '-i', 'sine=frequency=997:sample_rate=48000:duration=3']);
    const { findings } = await analyseFile(tone);
    expect(findings).toMatchObject({ scan: null, bars: null, busyness: null });
    expect(findings.sound?.peaks).toHaveLength(30);
  });
});

describe('an analysis in stretches', () => {
  it.each(['mov', 'ts'])('of a %s finds what one in a single go finds', async (kind) => {
    const drawn = drawGraph(
      'long.mov',
      `${moving(4)}[a];color=black:s=320x180:r=25:d=2[b];mandelbrot=s=320x180:r=25,trim=duration=4[c];[a][b][c]concat=n=3:v=1:a=0[picture];` +
        'aevalsrc=0.4*sin(2*PI*300*t)*(0.5+0.5*sin(t))|0.2*sin(2*PI*500*t):s=48000:d=10[sound]',
    );
    const master =
      kind === 'mov'
        ? drawn
        : draw(file('long.ts'), ['-i', drawn, '-c:v', 'libx264', '-crf', '8', '-g', '25', '-bf', '2', '-c:a', 'mp2']);
    const whole = (await analyseFile(master, ({ frameCount }) => [stretchOf(0, frameCount)])).findings;
    const parts = (
      await analyseFile(master, (facts, clock) =>
        [0, 100, 150, 200].map((inFrame, index, starts) => {
          const stretch = stretchOf(inFrame, (starts[index + 1] ?? facts.frameCount) - inFrame);
          const opening = openAtFrame(facts.video!, clock, inFrame - stretch.leadFrames);
          expect(opening).not.toBeNull();
          return { ...stretch, opening: opening! };
        }),
      )
    ).findings;
    expect(parts.damaged).toEqual([]);
    expect(parts.black).toEqual(whole.black);
    expect(parts.sceneChanges).toEqual(whole.sceneChanges);
    expect(parts.sound?.momentary).toHaveLength(whole.sound!.momentary.length);
    expect(parts.loudness!.integratedLufs).toBeCloseTo(whole.loudness!.integratedLufs, 1);
    expect(parts.loudness!.rangeLu).toBeCloseTo(whole.loudness!.rangeLu, 0);
    expect(parts.busyness?.bits).toHaveLength(whole.busyness!.bits.length);
  });

  /** At 25 frames a second, opened at the start of the file. */
  function stretchOf(inFrame: number, frameCount: number): AnalysisStretch {
    const startSeconds = inFrame / 25;
    return {
      ...{ inFrame, frameCount, startSeconds, seconds: frameCount / 25 },
      opening: { atSeconds: 0, skipSeconds: 0 },
      ...{ leadFrames: Math.min(2, inFrame), leadSeconds: Math.min(3, startSeconds) },
    };
  }
});
