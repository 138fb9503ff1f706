import { Component, Suspense, type ReactNode } from 'react'
import { Empty, Loading } from '../kit/parts'

/** A page that is fetched: until it is there, and where it cannot be had. */
export class Fetched extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false }

  static getDerivedStateFromError(error: unknown) {
    // The rest is a fault of a page, and shown as such.
    if (error instanceof TypeError && /import|fetch|module/i.test(error.message)) return { failed: true }
    throw error
  }

  override render() {
    if (this.state.failed)
      return (
        <Empty
          title="This page could not be fetched"
          action={{ text: 'Load it again', onClick: () => location.reload() }}
        >
          The connection is gone, or the house was just updated. Nothing that you typed elsewhere is lost.
        </Empty>
      )
    return <Suspense fallback={<Loading what="the page" />}>{this.props.children}</Suspense>
  }
}
