import { store } from '@/server/data'
import { dueCalendar } from '@/server/due-calendar'
import { download, route } from '@/server/respond'
import { dueAgain } from '@/store/due'

/** What is due again over all jobs, as a calendar. */
export const GET = route(() => download(dueCalendar(dueAgain(store())), 'text/calendar; charset=utf-8', 'due-again.ics'))
