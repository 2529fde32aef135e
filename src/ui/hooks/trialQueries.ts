'use client';

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { toast } from 'sonner';
import type { Measure } from '../../core/quality/closerLook.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { atQuality, fillsSize, ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import { api, type NewTrial } from './api.ts';

/** Trials of a programme, the newest first. */
export const useTrials = (programmeId: string) =>
  useQuery({ queryKey: ['trials', programmeId], queryFn: () => api.trialsOf(programmeId) });

/** Size against quality, as far as it was measured. */
export const useScale = (programmeId: string, measure: Measure) =>
  useQuery({
    queryKey: ['scale', programmeId, measure],
    queryFn: () => api.scale(programmeId, measure),
    placeholderData: keepPreviousData,
  });

/** What trials foresee of an order, whatever its rate and sound; null asks for nothing. */
export const triedQuery = (programmeId: string, recipe: Recipe, portion: Portion | null) => {
  const video = ratedVideo(recipe);
  const order = video && {
    recipe: {
      ...recipe,
      name: '',
      audio: null,
      video: { ...video, rate: atQuality(RATED[video.codec].quality.usual) },
    },
    portion: portion && { inFrame: portion.inFrame, outFrame: portion.outFrame },
  };
  return {
    queryKey: ['tried', programmeId, order],
    enabled: order !== null,
    queryFn: () => (order ? api.tried(programmeId, order) : { tried: null }),
    retry: false,
    staleTime: Infinity,
  };
};

/** The order with the frame size that measured best, where it leaves it open, and why it is that one. */
export function useSettledSize(
  programmeId: string,
  recipe: Recipe,
  portion: Portion | null,
): { readonly recipe: Recipe; readonly reason: string | null } {
  const isOpen = recipe.picture.fit?.orSmaller === true && fillsSize(recipe);
  const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame };
  const { data } = useQuery({
    queryKey: ['frame-size', programmeId, recipe, span],
    queryFn: () => api.frameSize(programmeId, { recipe, portion: span }),
    enabled: isOpen,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return useMemo(
    () =>
      isOpen && data?.size && data.reason !== null
        ? { recipe: { ...recipe, picture: { ...recipe.picture, fit: data.size } }, reason: data.reason }
        : { recipe, reason: null },
    [isOpen, data, recipe],
  );
}

/** What a trial would be. */
export const useTrialPlan = (request: NewTrial | null) =>
  useQuery({
    queryKey: ['trial-plan', request],
    queryFn: () => api.planTrial(request!),
    enabled: request !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Starts a trial, and ends one. */
export function useTrialActs(programmeId: string) {
  const client = useQueryClient();
  const onSettled = () => client.invalidateQueries({ queryKey: ['trials', programmeId] });
  const onError = (error: Error) => void toast.error(error.message);
  return {
    ask: useMutation({ mutationFn: api.askTrial, onSettled, onError }),
    stop: useMutation({ mutationFn: api.stopTrial, onSettled, onError }),
  };
}
