/** Clicks out, clicks heard: the delay and the noise of one microphone with its settings. */
import { api, type Device } from '../api/client';
import { Engine, type Block } from '../audio/engine';

const CLICKS = 8;
const EVERY_S = 0.45;
const QUIET_S = 1.2; // of silence first, for the noise of the room
const AFTER_S = 0.8;
const SETTLE_S = 0.3; // a microphone that was opened just now has holes
const LATE_S = 10; // sound may come so much later than it should: more is a machine that cannot keep up
const SLOW = 'The microphone’s sound comes too late. Close other programs and check again.';

export class DeviceCheck {
  running = $state(false);
  trouble = $state<string | null>(null);
  found = $state<Device | null>(null);

  async load(): Promise<void> {
    try {
      this.found = (await api.devices())[0] ?? null;
    } catch {
      this.found = null;
    }
  }

  async run(deviceId: string | null): Promise<void> {
    if (this.running) return;
    this.running = true;
    this.trouble = null;
    let engine: Engine | null = null;
    try {
      engine = await Engine.open();
      await engine.useMicrophone(deviceId);
      const { blocks, due } = await record(engine);
      const first = blocks[0]?.frame ?? 0;
      const about = {
        rate: engine.rate,
        clicks_s: due.map((at) => at - first / engine!.rate),
        facts: engine.facts,
      };
      this.found = await api.checkDevice(new Blob(blocks.map((block) => block.samples)), about);
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    } finally {
      engine?.close();
      this.running = false;
    }
  }
}

/** Gather blocks until the last click has died away; gives them with the context times at which the clicks were due. */
async function record(engine: Engine): Promise<{ blocks: Block[]; due: number[] }> {
  const blocks: Block[] = [];
  await arrival(engine, [], engine.context.currentTime + SETTLE_S);
  await arrival(engine, blocks, 0);
  const start = engine.context.currentTime + QUIET_S;
  const due = Array.from({ length: CLICKS }, (_, i) => start + i * EVERY_S);
  for (const at of due) engine.click(at, 'first');
  await arrival(engine, blocks, start + (CLICKS - 1) * EVERY_S + AFTER_S);
  engine.onBlock = null;
  return { blocks, due };
}

/** Gather blocks until one has come that was played at that context time or later. */
async function arrival(engine: Engine, blocks: Block[], at: number): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const longest = Math.max(0, at - engine.context.currentTime) + LATE_S;
    const waiting = setTimeout(() => reject(new Error(SLOW)), 1000 * longest);
    engine.onBlock = (block) => {
      blocks.push(block);
      if (block.frame < at * engine.rate) return;
      clearTimeout(waiting);
      resolve();
    };
  });
}
