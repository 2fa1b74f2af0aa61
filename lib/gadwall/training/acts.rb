# frozen_string_literal: true

module Gadwall
  module Training
    # What can be done at a stand, by kind: a class each.
    module Acts
      CLASSES = [
        Key,
        Pedal,
        Support,
        Chock,
        Lift,
        Stands,
        Lower,
        Wheel,
        Unplug,
        Plug,
        Safe,
        Meter,
        Fuse,
        Scope,
        Clamp,
        Look,
        Wiggle,
        Test,
        Drive,
        Read,
        Clear,
        Routine,
        Actuate,
        Hint,
        Mend,
        Step,
        Finish
      ].freeze
      BY_KIND = CLASSES.to_h { |act| [act.name.split("::").last.downcase, act] }.freeze
      KINDS = BY_KIND.keys.freeze
    end
  end
end
