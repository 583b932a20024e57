import { findQuestions, type PageText } from '../core/questions'
import { serveJobs } from './job'

/** Finds the questions of pages away from the interface. */
serveJobs(self, { find: async value => findQuestions(value as PageText[]) })
