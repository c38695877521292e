/** Tells a server that ends with its last window that this one is open: a socket, for as long as the page is. */
import { api } from '../api/client';

const RETRY_MS = 3000;

export async function stayHere(): Promise<void> {
  const { ends_with_windows } = await api.health();
  if (ends_with_windows) connect();
}

function connect(): void {
  const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
  const socket = new WebSocket(`${scheme}://${location.host}/api/here`);
  socket.onclose = () => setTimeout(connect, RETRY_MS);
}
