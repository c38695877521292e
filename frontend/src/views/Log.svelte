<script lang="ts">
  import { api, type LogSession } from '../lib/api/client';
  import TakeShape from '../lib/components/TakeShape.svelte';
  import { household } from '../lib/state/household.svelte';
  import { centsInWords, day, noteNames, OUTCOME_WORDS, overruledInWords, seconds } from '../lib/view/words';

  let sessions = $state<LogSession[] | null>(null);
  let trouble = $state<string | null>(null);

  $effect(() => {
    const player = household.player;
    if (!player) return;
    api.log(player.id).then(
      (found) => (sessions = found),
      (error: unknown) => (trouble = String(error)),
    );
  });

  const REASON_WORDS: Record<string, string> = {
    'wrong-partial': 'another slot',
    'fall-off': 'the end',
    extra: 'something extra',
    entry: 'the start',
    timing: 'the pulse',
    caught: 'a slot touched',
    gap: 'silence in the slur',
    missing: 'a note missing',
    silence: 'no tone',
    'too-quiet': 'too quiet',
    clipped: 'overloaded',
    unmeasured: 'too little tone',
    hold: 'length',
    lost: 'sound lost by the computer',
  };
</script>

<svelte:head><title>Log – Orexis</title></svelte:head>

<section class="mx-auto max-w-5xl p-8 max-sm:p-4">
  <h1>Log</h1>
  {#if trouble}<p role="alert" class="mt-4">{trouble}</p>{/if}
  {#if sessions?.length === 0}
    <p class="mt-6 text-lg">
      Nothing here yet. <a class="line" href="/">Choose something to work on</a>; every take is kept here with its
      sound.
    </p>
  {/if}
  {#each sessions ?? [] as session (session.id)}
    <article class="rule mt-8 border-t pt-4">
      <h2>{session.title}</h2>
      <p class="quiet">
        {day(session.started_at)} · {household.hornName(session.horn)} · {seconds(session.playing_s)} of tone{session
          .checks?.length
          ? ` · check notes: ${session.checks.join(', ')}`
          : ''}
      </p>
      {#if session.stopped}
        <p style="color: var(--oxblood)">Stopped: {session.stopped}. That was right.</p>
      {/if}
      {#each overruledInWords(session.overruled ?? []) as line (line)}<p class="quiet">{line}</p>{/each}
      <div class="mt-3 overflow-x-auto">
        <table class="w-full min-w-[700px] table-fixed text-left">
          <thead class="quiet text-sm">
            <tr>
              <th class="w-24 py-1 pr-4 font-normal">Take</th>
              <th class="w-44 pr-4 font-normal">Written</th>
              <th class="w-20 pr-4 font-normal">Tube</th>
              <th class="w-64 pr-4 font-normal">Outcome</th>
              <th class="pr-4 text-right font-normal">Centre, c</th>
              <th class="pr-4 text-right font-normal">Spread, c</th>
              <th class="pr-4 text-right font-normal">Sag, c</th>
              <th class="text-right font-normal">Hold, s</th>
            </tr>
          </thead>
          <tbody>
            {#each session.takes as take (take.id)}
              <tr class="rule border-t">
                <td class="py-2 pr-4"
                  ><a class="line inline-block py-1" href="/take/{take.id}">Take {take.number}</a></td
                >
                <td class="pr-4">{noteNames(take.written)}</td>
                <td class="pr-4">{take.tube}</td>
                <td class="pr-4">
                  <span class="inline-flex items-center gap-2">
                    <TakeShape outcome={take.outcome} size={16} />
                    {OUTCOME_WORDS[take.outcome]}{take.reason ? `: ${REASON_WORDS[take.reason] ?? take.reason}` : ''}
                    {take.recovered ? '(saved after a break)' : ''}
                  </span>
                </td>
                <td class="pr-4 text-right">{centsInWords(take.centre_cents)}</td>
                <td class="pr-4 text-right">{take.spread_cents?.toFixed(1) ?? '–'}</td>
                <td class="pr-4 text-right">{take.sag_cents == null ? '–' : Math.round(take.sag_cents) || 0}</td>
                <td class="text-right">{take.hold_s?.toFixed(1) ?? '–'}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </article>
  {/each}
</section>
