'use client'
import { LogOut, MonitorOff } from 'lucide-react'
import { IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { api } from './api'
import { MenuItem } from './menu-item'
import { useLongWork } from './long-work'

/** Leaving a team's server: in this browser, or in all that were left open somewhere. */
export function LeaveButton() {
  const { problem, attempt } = useLongWork()
  const leave = (address: string) =>
    void attempt('Leaving', async () => {
      await api('DELETE', address)
      window.location.assign('/sign-in')
    })
  return (
    <Popover
      label="Leave this server"
      align="end"
      trigger={
        <IconButton label="Leave this server">
          <LogOut size={16} />
        </IconButton>
      }
    >
      <div className="flex w-64 flex-col text-sm">
        <MenuItem
          icon={<LogOut size={14} />}
          label="Leave"
          note="This browser asks for the word again."
          onClick={() => leave('/api/session')}
        />
        <MenuItem
          icon={<MonitorOff size={14} />}
          label="Leave everywhere"
          note="So does every other one, of the whole team: for a machine that was lost or lent."
          onClick={() => leave('/api/session?everywhere')}
        />
        {problem && (
          <p role="alert" className="px-2 py-1 text-xs text-error">
            {problem}
          </p>
        )}
      </div>
    </Popover>
  )
}
