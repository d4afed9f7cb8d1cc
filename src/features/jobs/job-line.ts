/** A job as the list of jobs shows it. */
export interface JobLine {
  id: string
  title: string
  place: string
  region: string
  stage: string
  errors: number
  warnings: number
  updatedAt: string
}
