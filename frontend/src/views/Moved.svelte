<script lang="ts">
  import { navigate, route } from '../lib/router';
  import { MOVED } from '../lib/view/places';

  /** An address of an earlier release: on to where it is now, with what was asked for. */
  const to = MOVED[route.pathname] ?? '/';
  const search = Object.fromEntries(new URLSearchParams(location.search));
  void navigate(to, { replace: true, search });
</script>

<p role="status" class="p-8">One moment …</p>
