import base from '@primeuix/themes/aura/base'
import autocomplete from '@primeuix/themes/aura/autocomplete'
import breadcrumb from '@primeuix/themes/aura/breadcrumb'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import chip from '@primeuix/themes/aura/chip'
import datatable from '@primeuix/themes/aura/datatable'
import datepicker from '@primeuix/themes/aura/datepicker'
import dialog from '@primeuix/themes/aura/dialog'
import fileupload from '@primeuix/themes/aura/fileupload'
import inputnumber from '@primeuix/themes/aura/inputnumber'
import inputtext from '@primeuix/themes/aura/inputtext'
import menu from '@primeuix/themes/aura/menu'
import message from '@primeuix/themes/aura/message'
import multiselect from '@primeuix/themes/aura/multiselect'
import paginator from '@primeuix/themes/aura/paginator'
import panel from '@primeuix/themes/aura/panel'
import popover from '@primeuix/themes/aura/popover'
import progressbar from '@primeuix/themes/aura/progressbar'
import radiobutton from '@primeuix/themes/aura/radiobutton'
import select from '@primeuix/themes/aura/select'
import selectbutton from '@primeuix/themes/aura/selectbutton'
import slider from '@primeuix/themes/aura/slider'
import tabs from '@primeuix/themes/aura/tabs'
import tag from '@primeuix/themes/aura/tag'
import textarea from '@primeuix/themes/aura/textarea'
import toast from '@primeuix/themes/aura/toast'
import togglebutton from '@primeuix/themes/aura/togglebutton'
import virtualscroller from '@primeuix/themes/aura/virtualscroller'

/**
 * The library's own preset, read for its wiring alone: which part of a control follows which general token. None of its colours, sizes
 * or shadows is left. Only controls that Bluestem uses stand here.
 */
export const wiring = {
  ...base,
  components: {
    autocomplete,
    breadcrumb,
    button,
    checkbox,
    chip,
    datatable,
    datepicker,
    dialog,
    fileupload,
    inputnumber,
    inputtext,
    menu,
    message,
    multiselect,
    paginator,
    panel,
    popover,
    progressbar,
    radiobutton,
    select,
    selectbutton,
    slider,
    tabs,
    tag,
    textarea,
    toast,
    togglebutton,
    virtualscroller,
  },
}
