# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What can be asked before a fault is called proven, by the ids of data/diagnosis/gates.yml: a class each.
    module Needs
      BY_ID = {
        "wiring" => Wiring,
        "supply" => Supply,
        "answered" => Answered,
        "good_input" => GoodInput,
        "level" => Level,
        "pump_feed" => PumpFeed,
        "second_way" => SecondWay,
        "plug" => Isolated,
        "at_plug" => AtPlug,
        "direct" => Direct,
        "ring" => Ring,
        "separate" => Separate,
        "own_pins" => OwnPins,
        "own_plug" => OwnPlug,
        "member" => Member,
        "ends" => Ends
      }.freeze
    end
  end
end
