"""Live streams through the whole server, paced in real time: `python -m benchmarks.live [streams ...]`.

For each number of streams: what one costs (share of a core, server and its workers apart), how long after a block was
sent its frames are back (p50, p95), and how far behind the server ever said it was; then how long a verdict takes beside
five streams. The players run in processes of their own, so that their own work is not the server's.
"""

import asyncio
import json
import statistics
import struct
import subprocess
import sys
import tempfile
import time
import urllib.request
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
import psutil
from websockets.asyncio.client import connect

from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.player import play

_BLOCK = 1280  # what the page sends: 10 quanta, 29 ms at 44.1 kHz
_SECONDS = 12.0
_PORT = 8779
_FRAMES = struct.Struct("<IIQfIdId")


def _performance() -> tuple[Any, int]:
    exercise = exercise_type_named("long-low-tones").series(instrument_named("tuba-eb"), {"beats": "16"}).exercises[0]
    sound, _ = play(exercise, seed=1)
    return sound.samples, sound.rate


def _call(path: str, body: object) -> Any:
    request = urllib.request.Request(
        f"http://127.0.0.1:{_PORT}{path}", json.dumps(body).encode(), {"content-type": "application/json"}
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer)


async def _stream(session: str, key: str, samples: Any, rate: int, end: bool) -> tuple[list[float], float, float]:
    """One player: latencies in ms, the most the server said it was late, and seconds from the end to the verdict."""
    latencies, late, verdict_s = [], 0.0, 0.0
    async with connect(f"ws://127.0.0.1:{_PORT}/api/live", max_size=None) as ws:
        hello = {"type": "hello", "protocol": 2, "session": session, "token": None, "take_over": False}
        await ws.send(json.dumps(hello))
        begin = {
            "type": "begin",
            "take": key,
            "rate": rate,
            "first_beat_sample": 0,
            "source": "simulated",
            "device": {},
        }
        await ws.send(json.dumps(begin))
        sent: list[tuple[int, float]] = []
        ended = asyncio.get_running_loop().create_future()

        async def listen() -> None:
            nonlocal late
            async for message in ws:
                now = time.perf_counter()
                if isinstance(message, bytes):
                    _, _, received, behind, *_ = _FRAMES.unpack_from(message)
                    late = max(late, behind)
                    while sent and sent[0][0] <= received:
                        latencies.append(1000.0 * (now - sent.pop(0)[1]))
                elif json.loads(message)["type"] == "verdict" and not ended.done():
                    ended.set_result(now)

        listener = asyncio.create_task(listen())
        start = time.perf_counter()
        most = min(len(samples), round(_SECONDS * rate))
        for at in range(0, most, _BLOCK):
            await asyncio.sleep(max(0.0, start + (at + _BLOCK) / rate - time.perf_counter()))
            block = samples[at : at + _BLOCK].astype("<f4")
            sent.append((at + len(block), time.perf_counter()))
            await ws.send(struct.pack("<IId", at // _BLOCK, at, float(at)) + block.tobytes())
        await asyncio.sleep(0.3)
        if end:
            asked = time.perf_counter()
            await ws.send(json.dumps({"type": "event", "name": "ended"}))
            verdict_s = await asyncio.wait_for(ended, 60) - asked
        listener.cancel()
    return latencies, late, verdict_s


def _players(sessions: list[tuple[str, str]], end: int) -> list[tuple[list[float], float, float]]:
    """Several players in one process; the first `end` of them wait for their verdict."""
    samples, rate = _performance()
    rng = np.random.default_rng(len(sessions))

    async def all_of_them() -> list[tuple[list[float], float, float]]:
        async def one(place: int, session: str, key: str) -> tuple[list[float], float, float]:
            await asyncio.sleep(float(rng.uniform(0.0, 0.5)))
            return await _stream(session, key, samples, rate, place < end)

        return await asyncio.gather(*(one(i, *pair) for i, pair in enumerate(sessions)))

    return asyncio.run(all_of_them())


def _measured(server: psutil.Process, count: int, *, end: int = 0) -> None:
    player = _call("/api/players", {"name": "B", "standard": "developing", "instrument": "tuba-eb"})["id"]
    body = {"player_id": player, "exercise_type": "long-low-tones", "params": {"beats": "16"}}
    sessions = [(_call("/api/sessions", body)["id"], f"{time.time_ns() + i:032x}") for i in range(count)]
    with ProcessPoolExecutor(1) as pool:
        pool.submit(_performance).result()
        before, clock = server.cpu_times(), time.perf_counter()
        found = pool.submit(_players, sessions, end).result()
        after, passed = server.cpu_times(), time.perf_counter() - clock
    used = (after.user + after.system) - (before.user + before.system)
    latencies = sorted(value for one in found for value in one[0])
    p95 = latencies[int(0.95 * len(latencies))]
    share = 100.0 * used / _SECONDS / count
    line = f"live       {count:3} streams   {share:5.2f}% of a core each   frames back: p50 {statistics.median(latencies):6.1f} ms, p95 {p95:6.1f} ms"
    line += f"   said late {max(one[1] for one in found):.1f} s"
    if end:
        line += f"   verdict after {max(one[2] for one in found[:end]):.2f} s"
    print(line, f"  ({passed:.0f} s)", flush=True)


def main(counts: tuple[int, ...]) -> None:
    """Each number of streams on a server of its own data."""
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "orexis.cli.main", "serve", "--port", str(_PORT), "--data", str(Path(folder))]
        process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        process.stdout.readline()
        server = psutil.Process(process.pid)
        try:
            _measured(server, 1)  # the first warms everything
            for count in counts:
                _measured(server, count)
            _measured(server, 6, end=1)
            _measured(server, 6, end=1)
        finally:
            process.terminate()
            process.wait(timeout=10)


if __name__ == "__main__":
    main(tuple(map(int, sys.argv[1:])) or (1, 5, 10, 20))
