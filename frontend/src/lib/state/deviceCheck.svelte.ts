/** Clicks out, clicks heard: the delay and the noise of one microphone with its settings. */
import { api, type Device } from '../api/client';
import { Engine, type Block } from '../audio/engine';

const CLICKS = 8;
const EVERY_S = 0.45;
const QUIET_S = 1.2; // of silence first, for the noise of the room
const AFTER_S = 0.8;

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
      this.found = await api.checkDevice(new Blob(blocks.map((block) => block.samples as BlobPart)), about);
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    } finally {
      engine?.close();
      this.running = false;
    }
  }
}

/** Gather blocks while the clicks sound; gives them with the context times at which the clicks were due. */
async function record(engine: Engine): Promise<{ blocks: Block[]; due: number[] }> {
  const blocks: Block[] = [];
  await new Promise<void>((resolve) => {
    engine.onBlock = (block) => {
      blocks.push(block);
      resolve();
    };
  });
  const start = engine.context.currentTime + QUIET_S;
  const due = Array.from({ length: CLICKS }, (_, i) => start + i * EVERY_S);
  for (const at of due) engine.click(at, 'first');
  const last = due[due.length - 1] ?? start;
  await new Promise((resolve) => setTimeout(resolve, 1000 * (last + AFTER_S - engine.context.currentTime)));
  engine.onBlock = null;
  return { blocks, due };
}
