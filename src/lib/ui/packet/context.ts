import { getContext, setContext } from 'svelte';
import type { PacketStore } from './packetStore.svelte';
import type { UploadList } from './uploads.svelte';

const PACKET = Symbol('packet');
const UPLOADS = Symbol('uploads');

export const setPacket = (store: PacketStore) => setContext(PACKET, store);
export const usePacket = () => getContext<PacketStore>(PACKET);
export const setUploads = (uploads: UploadList) => setContext(UPLOADS, uploads);
export const useUploads = () => getContext<UploadList>(UPLOADS);
