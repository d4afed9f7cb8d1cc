import { existsSync } from 'node:fs'
import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'pdfmake', 'fontkit', 'highs'],
  poweredByHeader: false,
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
  // What never leaves this machine is not packed: it took a third of what the server did for a page.
  compress: process.env.SYNTHEMA_FAR === '1',
  experimental: {
    // An archive with its photographs is longer than what passes the door by itself.
    proxyClientMaxBodySize: '200mb',
    // Each route is read when it is asked for: a start read them all, 43 MB, of which it needs a sixth.
    preloadEntriesOnStart: false,
    // Nobody fetches the server's code; what it says of an error is read by line.
    serverMinification: false,
    // So that its lines are those of the files it runs from, and maps of them, which nothing reads, took an eighth of the build.
    turbopackSourceMaps: false,
    turbopackInputSourceMaps: false,
    // A stage in ten files instead of 24: asking for each took longer than reading what some of them share twice.
    turbopackChunking: { minChunkSize: 400_000 },
    // The first build on a machine leaves nothing for a second that may never come: it took as long as all else.
    turbopackFileSystemCacheForBuild: existsSync('.next/BUILD_ID'),
  },
}

export default config
