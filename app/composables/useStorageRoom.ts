import { storageRoom } from '../data/files'

/** Storage is measured this often, ms; more than this share of it in use is told. */
const ROOM_EVERY_MS = 5000
const LITTLE_ROOM = 0.9

/** Room to store a take: getting little, or none left, so that it goes on in memory. */
export function useStorageRoom() {
  const room = ref<'enough' | 'little' | 'none'>('enough')
  let measured = 0

  /** Told before it is too late. @param now machine time, ms */
  async function measure(now: number) {
    if (now - measured <= ROOM_EVERY_MS) return
    measured = now
    const storage = await storageRoom()
    if (room.value !== 'none')
      room.value = storage && storage.quota > 0 && storage.usage > LITTLE_ROOM * storage.quota ? 'little' : 'enough'
  }
  return { room, measure }
}
