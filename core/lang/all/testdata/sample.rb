#!/usr/bin/env ruby
# frozen_string_literal: true
require 'json'
require_relative 'clock'
load "port.rb"
autoload :Link, "marsh/link"

$shared = 1
LIMIT = 3

# The gauges. All of them.
module Marsh
  SAMPLES = 9
  NAMES = %w[saltern mere].freeze
  Point = Struct.new(:x, :y) do
    def sum
      x + y
    end
  end
  Plain = Struct.new(:a, :b)
  Failure = Class.new(StandardError)

  # Reads a gauge. It sleeps in between.
  class Gauge < Base::Sensor
    include Comparable
    attr_reader :name, :level
    attr_writer "unit"
    attr_accessor :ready
    WINDOW = "joined " "twice"
    @@made = 0
    @settings = {}
    alias old_read read
    alias_method :older, :read

    def initialize(name, level = 0, *rest, unit: "mm", **options, &block)
      @name = name
      @level ||= level
      @text = "gauge #{name} " + 'of marsh'
    end

    def self.make(name)
      new(name)
    end

    class << self
      def count = @@made
      attr_accessor :registry

      private

      def hidden_class_method; end
    end

    def read
      return 1 if @level > 0 && ready
      unless @level
        while ready do break end
      end
      case @level
      when 0 then :calm
      when 1, 2 then :rough
      else :wild
      end
      [1, 2].each { |i| puts i }
      begin
        settle
      rescue IOError, ArgumentError => e
        raise
      ensure
        close
      end
      @level ? 1 : 2
    end

    def ready?; @ready; end
    def close!; end
    def level=(value); @level = value; end
    def [](i); end
    def <=>(other); end
    def +(other); end
    def -@; end
    def endless(n) = n * 2
    def long(a,
             b)
      a + b
    end

    protected

    def own; end

    private

    def hidden; end
    attr_reader :secret

    public

    def open_again; end
    private def inline_private; end
    def later; end
    private :later
    define_method(:made) { |x| x }
    private_class_method :make
    private_constant :WINDOW

    class Inner
      def deep; end
    end

    module Helpers
      def self.help; end
    end
  end

  class Sub < Gauge; end
  class Gauge::Outside
    def out; end
  end

  def self.module_level; end
  def instance_level; end
end

def top_level(a) = a
def Marsh.singleton; end
class Reopened; def once; end; end
class GaugePart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class LevelPart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class TidePart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class FloatPart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class WavePart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class MarshPart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class StationPart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class FramePart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end
class LinkPart
  attr_reader :gauge, :level, :tide, :float, :wave, :marsh, :station, :frame, :link
  def read_gauge(n)
    n
  end

  def read_level(n)
    n
  end

  def read_tide(n)
    n
  end

  def read_float(n)
    n
  end

  def read_wave(n)
    n
  end

  def read_marsh(n)
    n
  end

  def read_station(n)
    n
  end

  def read_frame(n)
    n
  end

  def read_link(n)
    n
  end

  def read_board(n)
    n
  end

  def read_curve(n)
    n
  end

  def read_median(n)
    n
  end

  def read_battery(n)
    n
  end

  def read_clock(n)
    n
  end

  private

  def hide_gauge; end
  def hide_level; end
  def hide_tide; end
  def hide_float; end
  def hide_wave; end
  def hide_marsh; end
end

PATTERN_TEXT = '^\d+\b'
FOLDER = 'C:\new\\old \'s'
SPOKEN = "tab\there \"quoted\""
QUERY = <<~SQL
  select #{FOLDER}
  from levels
SQL
