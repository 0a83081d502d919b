import { describe, expect, it } from 'vitest'
import { ALL, imageBytes, type ImageName } from '../testing/media-images'
import { PatientSource } from '../sources/patient-source'
import { bytesSource } from '../sources/source'
import type { MediaItem } from './item'
import { scanImage, type ScanOutcome, type ScanResume } from './scan'

/** Scans through some steps of the deep scan, drops all but what a job stores, and resumes from there. */
function interrupted(name: ImageName, steps: number): ScanOutcome {
  let resume: ScanResume | undefined
  const first = scanImage(new PatientSource(bytesSource(imageBytes(name))), ALL)
  const items: MediaItem[] = []
  const traces: number[] = []
  let seen = 0
  for (let step = first.next(); !step.done && seen < steps; step = first.next()) {
    if (step.value.pass !== 'deep') continue
    seen++
    // Only what can be written down is kept.
    items.push(...(JSON.parse(JSON.stringify(step.value.content)) as MediaItem[]))
    traces.push(...step.value.traces)
    resume = { at: step.value.at!, items: [...items], traces: [...traces] }
  }
  expect(resume, `${name} has ${steps} steps`).toBeDefined()
  const second = scanImage(new PatientSource(bytesSource(imageBytes(name))), { ...ALL, resume: resume! })
  for (let step = second.next(); ; step = second.next()) if (step.done) return step.value
}

function whole(name: ImageName): ScanOutcome {
  const steps = scanImage(new PatientSource(bytesSource(imageBytes(name))), ALL)
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return step.value
}

const told = ({ items }: ScanOutcome) =>
  items.map(({ source: _, ...item }) => item).sort((a, b) => (a.key < b.key ? -1 : 1))

describe('a pass that was stopped and resumed', () => {
  it.each<[ImageName, number]>([
    ['camera-card', 1],
    ['camera-card', 9],
    ['recorder', 2],
    ['stick', 2],
    ['stick', 11],
    ['laptop', 17],
    ['server', 5],
  ])('finds in %s after %i steps what it would have found without', (name, steps) => {
    expect(told(interrupted(name, steps))).toEqual(told(whole(name)))
  })

  it('knows everything by a key of its own', () => {
    for (const name of ['camera-card', 'stick', 'recorder'] as const) {
      const keys = whole(name).items.map(({ key }) => key)
      expect(new Set(keys).size).toBe(keys.length)
    }
  })
})
