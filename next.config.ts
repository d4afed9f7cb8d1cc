import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'piscina', 'pdfmake', 'fontkit', 'elkjs', 'highs'],
  poweredByHeader: false,
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
}

export default config
